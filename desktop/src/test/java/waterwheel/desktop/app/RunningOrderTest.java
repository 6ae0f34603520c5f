package waterwheel.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashSet;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import javafx.css.PseudoClass;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.ListView;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import waterwheel.core.demo.DemoOrder;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.order.SongId;
import waterwheel.core.order.Target;
import waterwheel.core.session.Session;
import waterwheel.core.songs.HeardSong;
import waterwheel.core.songs.SongRow;
import waterwheel.core.store.OrderFile;
import waterwheel.core.store.SessionFolder;
import waterwheel.core.work.Progress;
import waterwheel.desktop.alike.AlikePanel;
import waterwheel.desktop.frame.Step;
import waterwheel.desktop.order.OrderModel;
import waterwheel.desktop.order.OrderView;

/** Songs side by side beside the session that is open, driven in the window. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class RunningOrderTest extends DrivenApplication {
    private Path file = Path.of("");

    @BeforeEach
    void the_demos_running_order() throws Exception {
        Path folder = Files.createDirectories(shared.resolve("order"));
        file = DemoOrder.writeIfMissing(folder, Progress.NONE);
        byte[] asItWas = Files.readAllBytes(file);
        robot.interact(() -> {
            try {
                desk().openNow(file);
            } catch (SessionFileException e) {
                throw new IllegalStateException(e);
            }
        });
        until(() -> order().levels().rows().stream().noneMatch(SongRow::isPending));
        original = asItWas;
    }

    private byte[] original = new byte[0];

    @AfterEach
    void as_it_was() throws Exception {
        robot.interact(() -> desk().orders().leave());
        Files.write(file, original);
    }

    private OrderModel order() {
        return Objects.requireNonNull(desk().orders().model());
    }

    private double gain(String song, String part) {
        return order().order().song(new SongId(song)).correction(part).gainDb();
    }

    private void press(KeyCode... keys) {
        robot.interact(() -> shown(ListView.class, list -> true).requestFocus());
        robot.push(keys);
    }

    private void click(String name) {
        robot.interact(() -> button(name).fire());
    }

    @Test
    void songs_stand_beside_the_session_with_parts_sum_and_what_is_lacking() throws Exception {
        assertThat(desk().model()).as("the session stays open").isNotNull();
        assertThat(visible(shown(OrderView.class, view -> true))).isTrue();
        until(() -> texts().toList()
                .containsAll(List.of(
                        "Drums",
                        "Bass",
                        "Tracks",
                        "Sum",
                        "Click",
                        "Heron on the Weir",
                        "not there",
                        "It has no Click, as most songs have.",
                        "to \u221224.0 LUFS")));
        robot.interact(() -> desk().window().show(Step.STAGING));
        assertThat(desk().window().orderIsSeen()).isFalse();
        robot.interact(() -> desk().window().show(Step.RUNNING_ORDER));
        assertThat(desk().window().orderIsSeen()).isTrue();
    }

    @Test
    void making_equal_is_proposed_taken_and_undone() throws Exception {
        click("Make equal");
        assertThat(gain("s2", "Bass")).as("a proposal changes nothing").isZero();
        robot.interact(() -> order().select(new SongId("s1"), "Bass"));
        press(KeyCode.A);
        assertThat(gain("s1", "Bass")).isNotZero();
        assertThat(gain("s1", "Drums")).as("of one part alone").isZero();
        robot.interact(() -> order().select(new SongId("s1"), ""));
        click("Take selected");
        assertThat(gain("s1", "Drums")).isNotZero();
        assertThat(gain("s2", "Bass")).isZero();
        click("Take all 15");
        assertThat(gain("s2", "Bass")).isCloseTo(-10.6, within(0.1));
        until(() -> order().levels().rows().stream().noneMatch(SongRow::isPending));
        assertThat(order().levels().worstLu(order().levels().rows().get(1), "")).isLessThan(0.02);
        press(KeyCode.CONTROL, KeyCode.Z);
        assertThat(gain("s2", "Bass")).isZero();
        press(KeyCode.CONTROL, KeyCode.Z);
        press(KeyCode.CONTROL, KeyCode.Z);
        assertThat(gain("s1", "Bass")).isZero();
        assertThat(model().historyProperty().get().undoName())
                .as("the session's own history is another")
                .isEmpty();
    }

    @Test
    void keys_go_from_part_to_part_and_a_typed_gain_corrects_it() throws Exception {
        robot.interact(() -> order().select(new SongId("s2"), ""));
        press(KeyCode.LEFT);
        assertThat(order().selectionProperty().get()).isEqualTo(new OrderModel.Selection(new SongId("s2"), "Tracks"));
        press(KeyCode.LEFT);
        TextField gain = shown(
                TextField.class, f -> String.valueOf(f.getAccessibleText()).startsWith("Gain of this part"));
        robot.interact(() -> {
            gain.requestFocus();
            gain.setText("-4.5");
        });
        robot.push(KeyCode.ENTER);
        assertThat(gain("s2", "Bass")).isEqualTo(-4.5);
        until(() -> order().levels().rows().stream().noneMatch(SongRow::isPending));
        assertThat(texts()).contains("\u221217.9 LUFS");
        robot.interact(() ->
                shown(CheckBox.class, box -> box.getText().equals("Equaliser")).fire());
        assertThat(order().order().song(new SongId("s2")).correction("Bass").equaliser())
                .isPresent();
    }

    @Test
    void every_control_has_a_tooltip_and_a_name_for_screen_readers() {
        robot.interact(() -> order().select(new SongId("s1"), ""));
        assertControlsAreNamed();
        robot.interact(() -> order().select(new SongId("s1"), "Bass"));
        robot.interact(() ->
                shown(CheckBox.class, box -> box.getText().equals("Equaliser")).fire());
        robot.interact(() -> order().propose());
        assertControlsAreNamed();
    }

    @Test
    void what_a_part_is_is_said_for_all_songs_at_once() throws Exception {
        robot.interact(() -> order().select(new SongId("s1"), "Bass"));
        ComboBox<?> choice =
                shown(ComboBox.class, box -> "Part that stems called Bass are".equals(box.getAccessibleText()));
        robot.interact(() -> choice.getEditor().setText("Drums"));
        robot.interact(() -> choice.getEditor().requestFocus());
        robot.push(KeyCode.ENTER);
        assertThat(order().order().partOf("Bass")).isEqualTo("Drums");
        until(() -> order().levels().rows().stream().noneMatch(SongRow::isPending));
        assertThat(order().levels().parts()).noneMatch(part -> part.name().equals("Bass") && has(part.name()));
        robot.interact(() -> order().select(new SongId("s1"), ""));
        click("As its name says");
        until(() -> order().levels().rows().stream().noneMatch(SongRow::isPending));
        assertThat(has("Bass")).isTrue();
        robot.interact(() -> order().select(new SongId("s1"), "Bass"));
        robot.interact(() -> shown(CheckBox.class, box -> box.getText().equals("A target of its own"))
                .fire());
        assertThat(order().order().part("Bass").ownLufs()).hasValue(-24);
        robot.interact(() -> shown(CheckBox.class, box -> box.getText().startsWith("A click or cue"))
                .fire());
        assertThat(order().order().part("Bass").cue()).isTrue();
    }

    private boolean has(String part) {
        return order().levels().rows().stream()
                .anyMatch(row -> order().levels().cell(row, part, "").isPresent());
    }

    @Test
    void sections_are_made_named_and_taken_out() throws Exception {
        robot.interact(() -> order().select(new SongId("s1"), ""));
        TextField name = shown(TextField.class, f -> "Name of section 2".equals(f.getAccessibleText()));
        robot.interact(() -> {
            name.requestFocus();
            name.setText("Refrain");
        });
        robot.interact(() -> {
            name.fireEvent(new KeyEvent(KeyEvent.KEY_PRESSED, "", "", KeyCode.ENTER, false, false, false, false));
            assertThat(sections()).containsExactly("Verse", "Refrain", "Last verse");
            assertThat(order().levels().rows().getFirst().isPending())
                    .as("its sections are measured anew, and can be cut meanwhile")
                    .isTrue();
            button("Section from here").fire();
        });
        assertThat(sections()).hasSize(4);
        assertThat(order().order().songs().getFirst().sections().getFirst().endSeconds())
                .isEqualTo(1.2);
        robot.interact(() -> ((Button) seen(".button", "Take the section Refrain out")).fire());
        assertThat(sections()).doesNotContain("Refrain").hasSize(3);
        until(() -> order().levels().rows().stream().noneMatch(SongRow::isPending)
                && !order().levels()
                        .rows()
                        .getFirst()
                        .known()
                        .orElseThrow()
                        .sections()
                        .contains("Refrain"));
    }

    private List<String> sections() {
        return order().order().songs().getFirst().sections().stream()
                .map(section -> section.name())
                .toList();
    }

    @Test
    void another_target_judges_at_once_and_the_furthest_off_comes_first() {
        TextField target = shown(TextField.class, f -> "Target in LUFS".equals(f.getAccessibleText()));
        robot.interact(() -> {
            target.requestFocus();
            target.setText("-14");
        });
        robot.push(KeyCode.ENTER);
        assertThat(order().order().target().lufs()).isEqualTo(-14);
        assertThat(order().levels().rows()).as("nothing is measured anew").noneMatch(SongRow::isPending);
        robot.interact(() -> shown(CheckBox.class, box -> box.getText().startsWith("Furthest"))
                .fire());
        ListView<?> list = shown(ListView.class, one -> true);
        assertThat(((SongRow) list.getItems().getFirst()).song().title()).isEqualTo("Reeds in the Race");
        robot.interact(() -> order().edit("Goal", o -> o.withTarget(o.target().withGoal(Target.Goal.SUM))));
        assertThat(texts()).contains("to \u221214.0 LUFS");
    }

    @Test
    void songs_are_listened_to_one_after_the_other() throws Exception {
        robot.interact(() -> order().select(new SongId("s1"), ""));
        press(KeyCode.SPACE);
        until(() -> order().listening().playingProperty().get()
                && order().listening().secondsProperty().get() > 0.1);
        assertThat(model().transport().playingProperty().get())
                .as("the session is silent")
                .isFalse();
        assertThat(seen(".part-fader .slider")).hasSize(4);
        click("Next song");
        until(() -> heard().equals("Heron on the Weir")
                && order().listening().playingProperty().get()
                && order().listening().secondsProperty().get() > 0.1);
        assertThat(order().selectionProperty().get().song()).isEqualTo(new SongId("s2"));
        choose("Compare blindly", "As delivered with as it was");
        assertThat(texts().toList()).contains("Tell");
        click("The other");
        click("Tell");
        assertThat(texts()).anyMatch(text -> text.matches("One was as (delivered|it was), the other as .*"));
        click("Stop");
        until(() -> !order().listening().playingProperty().get());
    }

    @Test
    void the_next_song_begins_by_itself_when_one_has_ended() throws Exception {
        robot.interact(() -> order().listening().play(new SongId("s1")));
        until(() -> order().listening().playingProperty().get());
        Node along = shown(javafx.scene.control.Slider.class, s -> "Place in the song".equals(s.getAccessibleText()));
        robot.interact(() -> ((javafx.scene.control.Slider) along).setValue(23.2));
        until(() -> heard().equals("Heron on the Weir")
                && order().listening().playingProperty().get()
                && order().listening().secondsProperty().get() > 0.05
                && order().listening().secondsProperty().get() < 5);
        robot.interact(() -> order().listening().playOrStop());
    }

    @Test
    void two_songs_are_compared_without_being_told_which_is_heard() throws Exception {
        robot.interact(() -> order().listening().play(new SongId("s1")));
        until(() -> order().listening().playingProperty().get());
        choose("Compare blindly", "This song with the next one");
        Set<String> heard = new HashSet<>();
        for (String which : List.of("One", "The other", "One", "The other")) {
            robot.interact(() ->
                    shown(Button.class, b -> b.getText().startsWith(which)).fire());
            until(() -> order().listening().playingProperty().get()
                    && order().listening().secondsProperty().get() > 0.05);
            heard.add(heard());
            assertThat(texts().filter(text -> text.contains("Heron on the Weir") || text.contains("One of two songs")))
                    .as("the bar names neither")
                    .contains("One of two songs");
        }
        assertThat(heard).hasSize(2);
        click("Tell");
        assertThat(texts()).anyMatch(text -> text.startsWith("One was ") && text.contains("Heron on the Weir"));
        robot.interact(() -> order().listening().playOrStop());
    }

    @Test
    void correcting_a_song_over_and_over_while_it_plays_does_not_stop_it() throws Exception {
        robot.interact(() -> order().listening().play(new SongId("s1")));
        until(() -> order().listening().secondsProperty().get() > 0.1);
        for (int i = 1; i <= 8; i++) {
            double gain = -i;
            robot.interact(() -> order().edit(
                            "Gain",
                            o -> o.withSong(
                                    new SongId("s1"),
                                    song -> song.with(
                                            "Bass", song.correction("Bass").withGainDb(gain)))));
            double before = order().listening().secondsProperty().get();
            until(() -> order().listening().secondsProperty().get() > before + 0.2);
        }
        assertThat(order().listening().playingProperty().get()).isTrue();
        robot.interact(() -> order().listening().playOrStop());
    }

    private String heard() {
        HeardSong song = order().listening().heardProperty().get();
        return song == null ? "" : song.song().title();
    }

    @Test
    void it_is_saved_and_delivered() throws Exception {
        robot.interact(() -> order().edit("Title", o -> o.withSong(new SongId("s1"), s -> s.withTitle("Renamed"))));
        assertThat(order().unsavedProperty().get()).isTrue();
        press(KeyCode.CONTROL, KeyCode.S);
        assertThat(order().unsavedProperty().get()).isFalse();
        assertThat(OrderFile.load(file).order().songs().getFirst().title()).isEqualTo("Renamed");
        click("Deliver this song");
        Path delivered = file.resolveSibling("delivered/01 Renamed/Mix.wav");
        until(() -> Files.exists(delivered) && texts().anyMatch(text -> text.startsWith("1 of 1 whole")));
    }

    @Test
    void another_program_that_saved_it_is_not_overwritten() throws Exception {
        OrderFile.save(order().order().withTarget(Target.USUAL.withLufs(-9)), file);
        robot.interact(() -> order().edit("Title", o -> o.withSong(new SongId("s1"), s -> s.withTitle("Renamed"))));
        robot.interact(() -> desk().save());
        assertThat(order().unsavedProperty().get()).isTrue();
        assertThat(OrderFile.load(file).order().target().lufs()).isEqualTo(-9);
    }

    @Test
    void anothers_flow_is_seen_before_it_is_taken_and_is_one_step() throws Exception {
        Session now = model().session();
        Path other = Files.createDirectories(shared.resolve("other session"));
        SessionFolder.save(now.withStrip(LEAD, strip -> strip.withFaderDb(-11)), other);
        robot.interact(() -> desk().window().alike().orElseThrow().compare(other));
        AlikePanel panel = shown(AlikePanel.class, one -> true);
        List<?> changes = shown(ListView.class, list -> "What would change".equals(list.getAccessibleText()))
                .getItems();
        assertThat(changes).singleElement().asString().startsWith("Lead voice: fader \u221211.0 dB instead of");
        assertThat(model().session()).isEqualTo(now);
        click("On the map");
        Node lead = card("Lead voice");
        assertThat(lead.getPseudoClassStates())
                .extracting(PseudoClass::getPseudoClassName)
                .contains("changed");
        assertThat(card("Harmonium").getPseudoClassStates())
                .extracting(PseudoClass::getPseudoClassName)
                .doesNotContain("changed");
        assertThat(texts()).anyMatch(text -> text.startsWith("As it would be mixed alike"));
        click("Mix alike");
        assertThat(model().session().channel(LEAD).strip().faderDb()).isEqualTo(-11);
        assertThat(model().previewProperty().get())
                .as("nothing is left to be looked at")
                .isNull();
        robot.interact(() -> model().undo());
        assertThat(model().session()).isEqualTo(now);
        robot.interact(panel::toggle);
        assertThat(model().previewProperty().get()).isNull();
        assertThat(lead.getPseudoClassStates())
                .extracting(PseudoClass::getPseudoClassName)
                .doesNotContain("changed");
    }
}
