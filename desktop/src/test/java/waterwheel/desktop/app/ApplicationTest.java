package waterwheel.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import javafx.geometry.Bounds;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import waterwheel.core.edit.Edits;
import waterwheel.core.edit.RideEdits;
import waterwheel.core.findings.Finding;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.PanLaw;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.store.SessionFolder;
import waterwheel.core.store.UnsavedWork;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.frame.Step;
import waterwheel.desktop.intake.IntakeView;
import waterwheel.desktop.model.SessionModel;

/** Drives the real application, drawn offscreen, with mouse and keys. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class ApplicationTest extends DrivenApplication {
    /** Of the demo: its players, and what is played by notes. */
    private static final int TRACKS = 25;
    /** In its audio folder: its players' and its samples. */
    private static final int FILES = 24;

    @Test
    void letters_typed_into_a_trim_are_no_keys_of_its_row() {
        robot.interact(() -> {
            desk().window().show(Step.STAGING);
            row("Lead voice").requestFocus();
        });
        robot.push(KeyCode.ENTER);
        robot.write("ms");
        assertThat(model().session().channel(LEAD).strip().muted()).isFalse();
        assertThat(model().session().channel(LEAD).strip().soloed()).isFalse();
        robot.push(KeyCode.ESCAPE);
    }

    @Test
    void a_hot_track_is_dragged_down_and_the_mains_headroom_becomes_true() throws Exception {
        double before = headroom();
        assertThat(before).as("the demo arrives over full scale").isNegative();
        Node bar = Objects.requireNonNull(row("Lead voice").lookup(".level-bar"));
        Bounds bounds = bar.localToScreen(bar.getBoundsInLocal());
        double pixelsPerDb = bounds.getWidth() / 72;
        robot.moveTo(bounds.getCenterX(), bounds.getCenterY())
                .press(MouseButton.PRIMARY)
                .moveBy(-5 * pixelsPerDb, 0)
                .moveBy(-5 * pixelsPerDb, 0)
                .release(MouseButton.PRIMARY);
        assertThat(trim(LEAD)).isCloseTo(-10, within(0.5));
        awaitLevels();
        double after = headroom();
        assertThat(after).isGreaterThan(before + 0.5);
        assertThat(texts())
                .as("the song strip shows it")
                .anyMatch(t -> t.startsWith(LevelText.signed(after, 1, true) + " dB"));
        robot.push(KeyCode.CONTROL, KeyCode.Z);
        assertThat(trim(LEAD)).as("one drag is one step").isZero();
        awaitLevels();
        assertThat(headroom()).isEqualTo(before);
        robot.push(KeyCode.CONTROL, KeyCode.SHIFT, KeyCode.Z);
        assertThat(trim(LEAD)).isCloseTo(-10, within(0.5));
    }

    @Test
    void trims_go_by_keyboard_and_by_typing_too() {
        robot.interact(() -> row("Lead voice").requestFocus());
        assertThat(model().selectedChannel().id()).isEqualTo(LEAD);
        robot.push(KeyCode.LEFT);
        robot.push(KeyCode.SHIFT, KeyCode.LEFT);
        assertThat(trim(LEAD)).isCloseTo(-1.1, within(1e-9));
        robot.push(KeyCode.ENTER);
        robot.push(KeyCode.CONTROL, KeyCode.A);
        robot.write("-7.25");
        robot.push(KeyCode.ENTER);
        assertThat(trim(LEAD)).isEqualTo(-7.25);
        robot.interact(() -> row("Lead voice").requestFocus());
        robot.push(KeyCode.DELETE);
        assertThat(trim(LEAD)).isZero();
        robot.push(KeyCode.M);
        assertThat(model().selectedChannel().strip().muted()).isTrue();
        robot.push(KeyCode.DOWN);
        assertThat(model().selectedChannel().name()).isEqualTo("Chorus voice 1");
        robot.push(KeyCode.S);
        assertThat(model().selectedChannel().strip().soloed()).isTrue();
    }

    @Test
    void the_page_of_keys_comes_and_goes_and_holds_the_menus_keys() {
        robot.push(KeyCode.SHIFT, KeyCode.F1);
        assertThat(texts()).contains("Keys", "Propose gains", "A row of Staging");
        robot.push(KeyCode.ESCAPE);
        assertThat(texts()).doesNotContain("A row of Staging");
    }

    @Test
    void a_clicked_row_has_the_keyboard() {
        robot.clickOn(row("Bodhrán room"));
        robot.push(KeyCode.LEFT);
        assertThat(trim(new ChannelId("bodhran-room"))).isCloseTo(-0.1, within(1e-9));
    }

    @Test
    void several_selected_rows_are_trimmed_together_and_keep_their_balance() {
        robot.interact(() -> {
            model().select(LEAD);
            row("Lead voice").requestFocus();
        });
        robot.push(KeyCode.SHIFT, KeyCode.DOWN);
        robot.push(KeyCode.SHIFT, KeyCode.DOWN);
        assertThat(model().selection())
                .extracting(Channel::name)
                .containsExactly("Lead voice", "Chorus voice 1", "Chorus voice 2");
        assertThat(model().selectedChannel().id()).as("the Path stays").isEqualTo(LEAD);
        robot.push(KeyCode.SHIFT, KeyCode.LEFT);
        assertThat(trim(LEAD)).isCloseTo(-1, within(1e-9));
        assertThat(trim(new ChannelId("chorus-voice-2"))).isCloseTo(-1, within(1e-9));
        robot.push(KeyCode.CONTROL, KeyCode.Z);
        assertThat(trim(LEAD)).as("one key is one step for all").isZero();
        assertThat(trim(new ChannelId("chorus-voice-2"))).isZero();
        robot.push(KeyCode.DOWN);
        assertThat(model().selection()).as("a step without Shift").hasSize(1);
    }

    @Test
    void proposed_trims_are_seen_before_they_are_taken_one_by_one_or_all_at_once() throws Exception {
        robot.interact(() -> row("Lead voice").requestFocus());
        robot.push(KeyCode.CONTROL, KeyCode.T);
        assertThat(trim(LEAD)).as("a proposal changes nothing").isZero();
        assertThat(texts()).as("average -5.3 dBFS to -18").contains("−12.7 dB").anyMatch(t -> t.endsWith(" guard"));
        until(() -> texts().anyMatch(t -> t.startsWith("Main headroom −") && !t.contains("…")));
        robot.interact(() -> row("Lead voice").requestFocus());
        robot.push(KeyCode.A);
        assertThat(trim(LEAD)).isCloseTo(-12.7, within(0.05));
        assertThat(trim(new ChannelId("fiddle-1"))).isZero();
        robot.push(KeyCode.CONTROL, KeyCode.ENTER);
        assertThat(trim(new ChannelId("fiddle-1"))).isCloseTo(-7.5, within(0.05));
        awaitLevels();
        assertThat(headroom()).isBetween(-3.5, 0.0);
        robot.push(KeyCode.CONTROL, KeyCode.Z);
        assertThat(trim(new ChannelId("fiddle-1")))
                .as("all at once is one step")
                .isZero();
        assertThat(trim(LEAD)).isCloseTo(-12.7, within(0.05));
    }

    @Test
    void Escape_drops_what_is_proposed() {
        robot.interact(() -> row("Lead voice").requestFocus());
        robot.push(KeyCode.CONTROL, KeyCode.T);
        assertThat(texts()).contains("Accept all");
        robot.push(KeyCode.ESCAPE);
        assertThat(robot.from(desk().window())
                        .lookup((Node n) -> n instanceof Button b && b.getText().equals("Accept all") && b.isManaged())
                        .queryAll())
                .isEmpty();
        assertThat(trim(LEAD)).isZero();
    }

    @Test
    void the_Path_sets_fader_and_placement_by_keyboard_and_shows_each_stage() throws Exception {
        robot.interact(() -> {
            model().select(LEAD);
            // What it is set to, without what moves it.
            model().edit(RideEdits.remove(model().session(), ControlId.ofStrip(LEAD, "faderDb")));
        });
        Node fader = robot.from(desk().window()).lookup(".path .fader").query();
        robot.interact(fader::requestFocus);
        robot.push(KeyCode.LEFT);
        robot.push(KeyCode.SHIFT, KeyCode.LEFT);
        assertThat(model().selectedChannel().strip().faderDb()).isCloseTo(-1.1, within(1e-9));
        awaitLevels();
        assertThat(robot.from(desk().window()).lookup(".stage-name").queryAll().stream()
                        .map(n -> ((Label) n).getText()))
                .containsExactly("Source", "Clips", "Trim", "Equaliser", "Compressor", "Fader", "Placement", "Output");
        assertThat(texts()).as("the fader's change").contains("−1.1 dB");
    }

    @Test
    void the_pan_law_changes_what_the_mix_measures() throws Exception {
        double before = headroom();
        robot.interact(() -> model().edit(Edits.panLaw(PanLaw.MINUS_6)));
        awaitLevels();
        assertThat(headroom()).isGreaterThan(before + 1);
        assertThat(texts()).contains("−6 dB");
    }

    @Test
    void the_song_plays_and_meters_move() throws Exception {
        robot.interact(() -> model().transport().seek(30));
        robot.interact(() -> desk().window().requestFocus());
        robot.push(KeyCode.SPACE);
        until(() -> model().transport().secondsProperty().get() > 30.5);
        Node live = Objects.requireNonNull(row("Bodhrán close").lookup(".live"));
        until(live::isVisible);
        robot.push(KeyCode.SPACE);
        until(() -> !model().transport().playingProperty().get());
        assertThat(texts()).anyMatch(t -> t.contains("Simulated interface"));
    }

    @Test
    void stems_are_rendered_from_the_view_and_the_proof_is_read() throws Exception {
        robot.interact(() -> {
            model().edit(Edits.trim(model().session().main(), -13));
            desk().window().show(Step.STEMS);
        });
        until(() -> texts().anyMatch(t -> t.equals("13 Lead voice")));
        Button render = robot.from(desk().window())
                .lookup((Node n) -> n instanceof Button b && b.getText().equals("Render stems and mix"))
                .queryButton();
        robot.clickOn(render);
        until(() -> texts().anyMatch(t -> t.startsWith("Proof")));
        assertThat(texts()).contains("Proof holds").anyMatch(t -> t.startsWith("The stems add up to the mix"));
        assertThat(folder.resolve("renders/Mix.wav")).exists();
        assertThat(folder.resolve("renders/cues/19 Click.wav")).exists();
        assertThat(folder.resolve("renders/stems.html")).exists();
    }

    @Test
    void a_remedy_is_applied_from_the_findings_line_and_undone() throws Exception {
        robot.push(KeyCode.CONTROL, KeyCode.F);
        Button remedy = robot.from(desk().window())
                .lookup((Node n) -> n instanceof Button b && b.getText().equals("Apply: Trim of Main") && b.isVisible())
                .queryButton();
        robot.interact(remedy::fire);
        awaitLevels();
        assertThat(headroom()).isBetween(4.4, 4.6);
        assertThat(texts().filter(t -> t.contains("over full scale")).toList()).allMatch(t -> t.startsWith("Fiddle 2"));
        robot.push(KeyCode.CONTROL, KeyCode.Z);
        awaitLevels();
        assertThat(headroom()).isNegative();
    }

    @Test
    void unsaved_changes_are_kept_and_offered_after_a_crash() throws Exception {
        Path kept = folder.resolve(UnsavedWork.FILE);
        // What the test before did is saved, and its unsaved state goes within seconds.
        until(() -> !Files.exists(kept));
        robot.interact(() -> model().edit(Edits.trim(model().session().channel(LEAD), -4)));
        until(() -> Files.exists(kept));
        byte[] left = Files.readAllBytes(kept);
        robot.interact(() -> model().undo());
        until(() -> !Files.exists(kept));
        // As a crash leaves it: the file is there and nobody has closed the session.
        Files.write(kept, left);
        robot.interact(this::openDemo);
        assertThat(texts()).anyMatch(t -> t.contains("Unsaved changes up to") && t.contains("Trim of"));
        Button take = robot.from(desk().window())
                .lookup((Node n) -> n instanceof Button b && b.getText().equals("Take them up"))
                .queryButton();
        robot.interact(take::fire);
        assertThat(trim(LEAD)).isEqualTo(-4);
        robot.push(KeyCode.CONTROL, KeyCode.Z);
        assertThat(trim(LEAD)).as("taking them up can be undone").isZero();
    }

    private Node intakeRow(String channel) {
        return robot.from(desk().window())
                .lookup(".intake-row")
                .match(node -> ((TextField) Objects.requireNonNull(node.lookup(".name-field")))
                        .getText()
                        .equals(channel))
                .query();
    }

    @Test
    void Intake_shows_each_file_with_its_faults_and_names_are_typed_there() {
        robot.interact(() -> desk().window().show(Step.INTAKE));
        assertThat(robot.from(desk().window()).lookup(".intake-row").queryAll()).hasSize(TRACKS);
        assertThat(texts()).contains("flattened", "over 0, harmless", "Join 1 pair");
        robot.interact(() -> intakeRow("Lead voice").requestFocus());
        robot.push(KeyCode.ENTER);
        robot.push(KeyCode.CONTROL, KeyCode.A);
        robot.write("Solo");
        robot.push(KeyCode.ENTER);
        assertThat(model().session().channel(LEAD).name()).isEqualTo("Solo");
        robot.push(KeyCode.ALT, KeyCode.SHIFT, KeyCode.UP);
        assertThat(model().session().tracks().get(11).id()).as("one place up").isEqualTo(LEAD);
        robot.push(KeyCode.CONTROL, KeyCode.Z);
        robot.push(KeyCode.CONTROL, KeyCode.Z);
        assertThat(model().session().channel(LEAD).name()).isEqualTo("Lead voice");
    }

    @Test
    void a_pair_of_mono_tracks_is_joined_into_a_stereo_track_and_taken_apart_by_undo() throws Exception {
        robot.interact(() -> desk().window().show(Step.INTAKE));
        Button join = robot.from(desk().window())
                .lookup((Node n) -> n instanceof Button b && b.getText().equals("Join 1 pair"))
                .queryButton();
        robot.interact(join::fire);
        until(() -> model().session().tracks().size() == TRACKS - 1);
        Track melodeon = model().session().tracks().stream()
                .filter(t -> t.name().equals("Melodeon"))
                .findFirst()
                .orElseThrow();
        assertThat(melodeon.planes()).isEqualTo(2);
        awaitLevels();
        assertThat(model().levels().of(melodeon.id()).orElseThrow().first().samplePeakDbfs())
                .as("the louder side's peak")
                .isCloseTo(-2, within(0.01));
        robot.push(KeyCode.CONTROL, KeyCode.Z);
        assertThat(model().session().tracks()).hasSize(TRACKS);
    }

    @Test
    void dropped_files_become_tracks_and_the_refused_are_named() throws Exception {
        Path text = Files.writeString(shared.resolve("notes.wav"), "no audio");
        Path voice = folder.resolve("audio/lead-voice.wav");
        robot.interact(() -> {
            desk().window().show(Step.INTAKE);
            ((IntakeView) Objects.requireNonNull(desk().window().view(Step.INTAKE))).add(List.of(voice, text));
        });
        until(() -> model().session().tracks().size() == TRACKS + 1);
        assertThat(texts()).anyMatch(t -> t.contains("notes.wav is not an audio file"));
        awaitLevels();
        assertThat(model().findingsProperty().get())
                .as("the same voice twice")
                .anyMatch(f -> f.rule() == Finding.Rule.SAME_AUDIO_TWICE);
        robot.push(KeyCode.CONTROL, KeyCode.Z);
        assertThat(model().session().tracks()).hasSize(TRACKS);
    }

    @Test
    void saving_keeps_what_was_done() throws Exception {
        robot.interact(() -> model().edit(Edits.trim(model().session().channel(LEAD), -4)));
        assertThat(model().unsavedProperty().get()).isTrue();
        robot.push(KeyCode.CONTROL, KeyCode.S);
        assertThat(model().unsavedProperty().get()).isFalse();
        Session loaded = SessionFolder.load(folder).session();
        assertThat(loaded.channel(LEAD).strip().trimDb()).isEqualTo(-4);
        assertThat(model().session()).isEqualTo(loaded);
    }

    @Test
    void every_control_has_a_tooltip_and_a_name_for_screen_readers() {
        for (Step step : Step.values()) {
            robot.interact(() -> desk().window().show(step));
            assertControlsAreNamed();
        }
    }

    @Test
    void a_dropped_folder_of_files_becomes_a_session() throws Exception {
        Path home = Path.of(System.getProperty("user.home"));
        System.setProperty("user.home", shared.toString());
        try {
            robot.interact(() -> desk().newFrom(List.of(folder.resolve("audio"))));
            until(() -> desk().model() != null && model().session().title().equals("audio"));
            assertThat(model().session().tracks()).hasSize(FILES);
            assertThat(shared.resolve("Waterwheel/audio/session.json")).exists();
        } finally {
            System.setProperty("user.home", home.toString());
        }
    }

    @Test
    void a_session_that_was_closed_is_heard_by_nobody() {
        SessionModel old = model();
        List<ChannelId> heard = new ArrayList<>();
        robot.interact(() -> {
            old.keep(old.selectedProperty().subscribe((before, after) -> heard.add(after)));
            old.select(LEAD);
        });
        assertThat(heard).containsExactly(LEAD);
        robot.interact(() -> {
            openDemo();
            old.select(old.session().mainId());
        });
        assertThat(model()).isNotSameAs(old);
        assertThat(heard).containsExactly(LEAD);
    }
}
