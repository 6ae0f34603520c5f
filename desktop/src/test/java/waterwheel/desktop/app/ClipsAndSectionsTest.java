package waterwheel.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import java.util.Objects;
import javafx.geometry.Bounds;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import waterwheel.core.edit.Edits;
import waterwheel.core.path.Stage;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Clip;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.core.session.Section;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;
import waterwheel.desktop.frame.Step;

/** Clips, sections, live meters, and changes of several channels at once. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class ClipsAndSectionsTest extends DrivenApplication {
    @AfterEach
    void put_the_panels_away() {
        robot.interact(() -> {
            model().chooseSection(null);
            if (desk().window().clips().orElseThrow().isVisible()) {
                desk().window().toggleClips();
            }
        });
    }

    private Clip leadClip() {
        return ((Track) model().session().channel(LEAD)).clips().getFirst();
    }

    private Node picture() {
        return robot.from(desk().window()).lookup(".clip-picture").query();
    }

    private void openClips() {
        robot.interact(() -> model().select(LEAD));
        robot.push(KeyCode.CONTROL, KeyCode.E);
    }

    @Test
    void escape_puts_the_clips_away_as_their_key_does() {
        openClips();
        assertThat(visible(picture())).isTrue();
        robot.push(KeyCode.ESCAPE);
        assertThat(visible(picture())).isFalse();
        openClips();
        assertThat(visible(picture())).as("and back").isTrue();
    }

    @Test
    void a_gain_curve_is_drawn_by_keyboard_and_the_level_after_the_clips_follows() throws Exception {
        openClips();
        robot.push(KeyCode.DOWN);
        robot.push(KeyCode.DOWN);
        assertThat(leadClip().gainCurve().points()).hasSize(1);
        assertThat(leadClip().gainCurve().at(0)).isEqualTo(-1);
        awaitLevels();
        var levels = model().levels().of(LEAD).orElseThrow();
        assertThat(levels.at(Stage.CLIPS).averageDbfs()
                        - levels.at(Stage.SOURCE).averageDbfs())
                .isCloseTo(-1, within(0.001));
        robot.push(KeyCode.SHIFT, KeyCode.RIGHT);
        robot.push(KeyCode.UP);
        assertThat(leadClip().gainCurve().points())
                .extracting(CurvePoint::value)
                .containsExactly(-1.0, -0.5);
        robot.push(KeyCode.DELETE);
        assertThat(leadClip().gainCurve().points()).hasSize(1);
        robot.push(KeyCode.CONTROL, KeyCode.Z);
        assertThat(leadClip().gainCurve().points()).hasSize(2);
    }

    @Test
    void a_double_click_adds_a_point_where_it_is() throws Exception {
        openClips();
        until(() -> picture().getBoundsInLocal().getWidth() > 600);
        Bounds bounds = picture().localToScreen(picture().getBoundsInLocal());
        // A quarter down is half of the 24 dB between the middle and the edge.
        robot.moveTo(bounds.getMinX() + bounds.getWidth() / 2, bounds.getMinY() + bounds.getHeight() / 4)
                .doubleClickOn(MouseButton.PRIMARY);
        CurvePoint point = leadClip().gainCurve().points().getFirst();
        assertThat(point.value()).isCloseTo(12, within(0.6));
        assertThat((double) point.frame() / leadClip().lengthFrames()).isCloseTo(0.5, within(0.01));
    }

    private ChoiceBox<?> curves() {
        return robot.from(desk().window())
                .lookup((Node n) -> n instanceof ChoiceBox<?>
                        && "Which of the clip's curves is drawn".equals(n.getAccessibleText()))
                .queryAs(ChoiceBox.class);
    }

    @Test
    void a_clips_fader_curve_is_drawn_moved_and_copied_with_it_and_read_in_the_path() throws Exception {
        openClips();
        robot.interact(() -> curves().getSelectionModel().select(1));
        robot.interact(() -> picture().requestFocus());
        robot.push(KeyCode.DOWN);
        robot.push(KeyCode.DOWN);
        ControlId fader = ControlId.ofStrip(LEAD, "faderDb");
        double set = model().session().channel(LEAD).strip().faderDb();
        assertThat(leadClip().gainCurve().isNone()).isTrue();
        assertThat(leadClip().rides()).hasSize(1);
        assertThat(Controls.reading(model().session(), fader, 1_000)).isCloseTo(set - 1, within(1e-9));
        long length = leadClip().lengthFrames();
        robot.interact(() -> button("Copy behind").fire());
        assertThat(((Track) model().session().channel(LEAD)).clips()).hasSize(2);
        assertThat(Controls.reading(model().session(), fader, length + 1_000)).isCloseTo(set - 1, within(1e-9));
        assertThat(Controls.reading(model().session(), fader, 2 * length)).isCloseTo(set, within(1e-9));
        robot.push(KeyCode.CONTROL, KeyCode.Z);
        robot.interact(() -> button("Remove curve").fire());
        assertThat(leadClip().rides()).isEmpty();
    }

    @Test
    void calm_is_seen_before_it_is_taken() throws Exception {
        robot.interact(() -> model().select(new ChannelId("melodeon-right")));
        robot.push(KeyCode.CONTROL, KeyCode.E);
        Button propose = button("Propose calm");
        robot.interact(propose::fire);
        until(() -> robot.from(desk().window())
                .lookup((Node n) -> n instanceof Button b && b.getText().equals("Accept") && n.isVisible())
                .tryQuery()
                .isPresent());
        Track before = (Track) model().selectedChannel();
        assertThat(before.clips().getFirst().gainCurve().isNone()).isTrue();
        robot.interact(() -> button("Accept").fire());
        Track after = (Track) model().selectedChannel();
        assertThat(after.clips().getFirst().gainCurve().points()).hasSizeGreaterThan(4);
        awaitLevels();
        var levels = model().levels().of(after.id()).orElseThrow();
        double spreadBefore = levels.at(Stage.SOURCE).shortTermHighDbfs()
                - levels.at(Stage.SOURCE).shortTermLowDbfs();
        double spreadAfter = levels.at(Stage.CLIPS).shortTermHighDbfs()
                - levels.at(Stage.CLIPS).shortTermLowDbfs();
        assertThat(spreadAfter).isLessThan(spreadBefore - 3);
        robot.push(KeyCode.CONTROL, KeyCode.Z);
        assertThat(((Track) model().selectedChannel())
                        .clips()
                        .getFirst()
                        .gainCurve()
                        .isNone())
                .isTrue();
    }

    @Test
    void the_waveform_is_seen_down_to_flattened_samples() throws Exception {
        robot.interact(() -> model().select(new ChannelId("stomp-board")));
        robot.push(KeyCode.CONTROL, KeyCode.E);
        robot.interact(() -> button("Next flattened").fire());
        assertThat(texts()).anyMatch(t -> t.contains("stomp-board.wav, 0:12.0 to 0:12.0"));
        until(() -> robot.from(desk().window()).lookup(".lost-mark").tryQuery().isPresent());
        robot.interact(() -> button("Whole").fire());
        assertThat(texts()).anyMatch(t -> t.contains("0:00.0 to 2:00.0"));
    }

    @Test
    void a_chosen_section_is_what_figures_are_of() throws Exception {
        Section verse = model().session().sections().stream()
                .filter(s -> s.name().equals("Intro"))
                .findFirst()
                .orElseThrow();
        double whole = model().levels().askedMain().orElseThrow().samplePeakDbfs();
        robot.interact(() -> model().chooseSection(verse));
        awaitLevels();
        double section = model().levels().askedMain().orElseThrow().samplePeakDbfs();
        assertThat(section).isLessThan(whole - 0.5);
        assertThat(texts()).contains("Figures: Intro");
        assertThat(model().levels().main().orElseThrow().samplePeakDbfs())
                .as("findings stay those of the song")
                .isEqualTo(whole);
    }

    @Test
    void a_section_is_made_named_and_removed_with_the_menu_and_undone() throws Exception {
        robot.interact(() -> model().transport().seek(30));
        MenuButton menu = robot.from(desk().window())
                .lookup((Node n) -> n instanceof MenuButton m && m.getText().startsWith("Figures:"))
                .queryAs(MenuButton.class);
        robot.interact(() -> item(menu, "New section at the cursor").fire());
        robot.write("Bridge");
        robot.push(KeyCode.ENTER);
        Section made = Objects.requireNonNull(model().sectionProperty().get());
        assertThat(made.name()).isEqualTo("Bridge");
        assertThat(made.startFrames()).isEqualTo(30L * model().session().sampleRateHz());
        robot.interact(() -> model().transport().seek(33));
        robot.interact(() -> item(menu, "End Bridge at the cursor").fire());
        assertThat(Objects.requireNonNull(model().sectionProperty().get()).endFrames())
                .isEqualTo(33L * model().session().sampleRateHz());
        robot.interact(() -> item(menu, "Remove Bridge").fire());
        assertThat(model().sectionProperty().get()).isNull();
        robot.interact(() -> model().undo());
        assertThat(model().session().sections()).extracting(Section::name).contains("Bridge");
    }

    private static MenuItem item(MenuButton menu, String text) {
        return menu.getItems().stream()
                .filter(i -> text.equals(i.getText()))
                .findFirst()
                .orElseThrow();
    }

    @Test
    void meters_come_with_the_sound_count_overs_and_begin_anew_after_a_change() throws Exception {
        ChannelId hot = new ChannelId("fiddle-2");
        robot.interact(() -> {
            model().select(hot);
            model().transport().seek(24);
            model().transport().playOrStop();
        });
        until(() -> model().transport().meters().of(hot).overs() > 0);
        assertThat(texts()).anyMatch(t -> t.matches("[0-9]+ overs?"));
        assertThat(model().transport().meters().of(hot).places().getFirst().atSeconds())
                .isGreaterThanOrEqualTo(24);
        robot.interact(() -> model().transport().stop());
        until(() -> !model().transport().playingProperty().get());
        robot.interact(() -> row("Fiddle 2").requestFocus());
        robot.push(KeyCode.SHIFT, KeyCode.LEFT);
        until(() -> model().transport().meters().of(hot).overs() == 0);
        until(() -> texts().anyMatch(t -> t.contains("began anew after: Trim of Fiddle 2")));
    }

    @Test
    void selected_faders_move_together_in_the_Path() {
        List<ChannelId> voices = List.of(LEAD, new ChannelId("chorus-voice-1"));
        robot.interact(() -> {
            model().edit(Edits.fader(model().session().channel(LEAD), -6));
            model().select(LEAD);
            model().toggleSelected(voices.get(1));
        });
        TextField fader = robot.from(desk().window())
                .lookup((Node n) -> n instanceof TextField f
                        && String.valueOf(f.getAccessibleText()).equals("Fader in dB"))
                .queryAs(TextField.class);
        robot.interact(fader::requestFocus);
        robot.push(KeyCode.SHIFT, KeyCode.DOWN);
        assertThat(voices)
                .extracting(id -> model().session().channel(id).strip().standingDb(Strip.FADER))
                .containsExactly(-7.0, -1.0);
        robot.push(KeyCode.CONTROL, KeyCode.Z);
        assertThat(voices)
                .extracting(id -> model().session().channel(id).strip().standingDb(Strip.FADER))
                .containsExactly(-6.0, 0.0);
    }

    @Test
    void several_tracks_of_Intake_get_a_kind_together_and_all_facts_are_read_below() throws Exception {
        robot.interact(() -> {
            desk().window().show(Step.INTAKE);
            model().select(LEAD);
        });
        until(() -> texts().anyMatch(t -> t.startsWith("lead-voice.wav, PCM 24-bit, 48000 Hz")
                && t.contains("true peak")
                && t.contains("noise floor")
                && t.contains("offset")));
        robot.interact(() -> robot.from(desk().window())
                .lookup(".intake-row")
                .match(n -> String.valueOf(n.getAccessibleText()).startsWith("Lead voice"))
                .query()
                .requestFocus());
        robot.push(KeyCode.SHIFT, KeyCode.DOWN);
        assertThat(model().selection()).hasSize(2);
        robot.interact(() -> model().edit(
                        Edits.forEach("Kind", model().selection(), c -> Edits.kind((Track) c, Track.Kind.PERCUSSIVE))));
        assertThat(model().selection())
                .allSatisfy(c -> assertThat(((Track) c).kind()).isEqualTo(Track.Kind.PERCUSSIVE));
        robot.push(KeyCode.CONTROL, KeyCode.Z);
        assertThat(((Track) model().session().channel(LEAD)).kind()).isEqualTo(Track.Kind.SUSTAINED);
    }

    @Test
    void faders_are_handed_to_trims_by_key() {
        robot.interact(() -> {
            model().select(LEAD);
            model().edit(Edits.fader(model().session().channel(LEAD), -9.5));
        });
        robot.push(KeyCode.CONTROL, KeyCode.SHIFT, KeyCode.T);
        assertThat(model().session().channel(LEAD).strip().trimDb()).isEqualTo(-9.5);
        assertThat(model().session().channel(LEAD).strip().standingDb(Strip.FADER))
                .isZero();
        assertThat(texts()).anyMatch(t -> t.startsWith("The mix stays the same."));
    }

    @Test
    void a_track_has_a_reference_of_its_own() throws Exception {
        robot.interact(() -> model().select(LEAD));
        TextField reference = robot.from(desk().window())
                .lookup((Node n) -> n instanceof TextField f
                        && String.valueOf(f.getAccessibleText()).startsWith("0 VU of this track"))
                .queryAs(TextField.class);
        robot.interact(reference::requestFocus);
        robot.push(KeyCode.CONTROL, KeyCode.A);
        robot.write("-20");
        robot.push(KeyCode.ENTER);
        Channel lead = model().session().channel(LEAD);
        assertThat(model().session().referenceDbfs(lead)).isEqualTo(-20);
        robot.interact(() -> desk().window().show(Step.STAGING));
        robot.push(KeyCode.CONTROL, KeyCode.T);
        until(() -> texts().anyMatch(t -> t.contains("Main headroom") && !t.contains("…")));
        robot.push(KeyCode.ESCAPE);
    }
}
