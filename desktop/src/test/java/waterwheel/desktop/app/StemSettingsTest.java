package waterwheel.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javafx.event.ActionEvent;
import javafx.scene.Node;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Label;
import javafx.scene.control.Labeled;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import waterwheel.core.edit.Edits;
import waterwheel.core.edit.FlowEdits;
import waterwheel.core.edit.StemEdits;
import waterwheel.core.processing.Saturator;
import waterwheel.core.session.Channel;
import waterwheel.core.session.Section;
import waterwheel.core.session.Session;
import waterwheel.core.session.StemDivision;
import waterwheel.core.session.Tap;
import waterwheel.core.stems.NamePattern;
import waterwheel.core.stems.StemTap;
import waterwheel.core.stems.Treatment;
import waterwheel.desktop.frame.Step;
import waterwheel.desktop.stems.StemsView;

/** What stems sound like is chosen in their view, and what they will measure follows. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class StemSettingsTest extends DrivenApplication {
    @SuppressWarnings("unchecked")
    private <T> void set(String accessible, T value) {
        ChoiceBox<T> choice = shown(ChoiceBox.class, box -> accessible.equals(box.getAccessibleText()));
        robot.interact(() -> choice.setValue(value));
    }

    /** The loudness of each file, as the view foretells it. */
    private static List<String> figures(StemsView stems) {
        return stems.lookupAll(".label").stream()
                .map(node -> ((Labeled) node).getText())
                .filter(text -> text.endsWith(" LUFS"))
                .toList();
    }

    @AfterEach
    void as_usual() {
        robot.interact(() -> {
            level().getSelectionModel().selectFirst();
            level().getOnAction().handle(new ActionEvent());
        });
        set("Where stems and mix are taken", StemTap.AFTER_MAIN);
    }

    private ChoiceBox<?> level() {
        return shown(ChoiceBox.class, box -> "Level policy: what sets the gain of every file"
                .equals(box.getAccessibleText()));
    }

    @Test
    void how_buses_treat_a_stem_and_where_it_is_taken_change_what_is_foretold() throws Exception {
        robot.interact(() -> desk().window().show(Step.STEMS));
        StemsView stems = shown(StemsView.class, view -> true);
        until(stems::ready);
        List<String> asMix = figures(stems);
        set("What compressors and the like on buses do with a stem", Treatment.ALONE);
        until(() -> stems.ready() && !figures(stems).equals(asMix));
        set("What compressors and the like on buses do with a stem", Treatment.AS_MIX);
        until(() -> stems.ready() && figures(stems).equals(asMix));
        robot.interact(() -> model().edit(Edits.trim(model().session().main(), -3)));
        awaitLevels();
        until(stems::ready);
        List<String> turnedDown = figures(stems);
        assertThat(turnedDown).isNotEqualTo(asMix);
        set("Where stems and mix are taken", StemTap.BEFORE_MAIN);
        until(() -> stems.ready() && figures(stems).equals(asMix));
        assertThat(asMix).hasSizeGreaterThan(10);
    }

    @Test
    void a_policy_chosen_while_stems_are_measured_waits_for_them() throws Exception {
        robot.interact(() -> desk().window().show(Step.STEMS));
        StemsView stems = shown(StemsView.class, view -> true);
        until(stems::ready);
        List<Throwable> thrown = new ArrayList<>();
        Session before = model().session();
        boolean[] chosen = {false};
        robot.interact(() -> {
            // It is told after the view, which has just asked for the stems of the new session.
            model().keep(model().levelsProperty().subscribe(levels -> {
                boolean asked = levels.complete() && levels.session().equals(model().session());
                if (asked && !chosen[0] && !levels.session().equals(before)) {
                    chosen[0] = true;
                    try {
                        level().getSelectionModel().selectLast();
                        level().getOnAction().handle(new ActionEvent());
                    } catch (RuntimeException e) {
                        thrown.add(e);
                    }
                }
            }));
            model().edit(FlowEdits.addTapped(model().session().channel(LEAD), Tap.Point.PRE_FADER));
        });
        until(() -> chosen[0]);
        assertThat(thrown).isEmpty();
        until(stems::ready);
    }

    @Test
    void each_stem_gets_a_gain_of_its_own_that_stands_beside_it() throws Exception {
        robot.interact(() -> desk().window().show(Step.STEMS));
        StemsView stems = shown(StemsView.class, view -> true);
        until(stems::ready);
        robot.interact(() -> {
            level().getSelectionModel().selectLast();
            level().getOnAction().handle(new ActionEvent());
        });
        until(() -> figures(stems).stream().filter("\u221223.0 LUFS"::equals).count() > 10);
        assertThat(stems.lookupAll(".label").stream()
                        .map(node -> ((Labeled) node).getText())
                        .filter(text -> text.matches("[+\u2212][0-9.]+ dB"))
                        .distinct())
                .hasSizeGreaterThan(10);
    }

    @SuppressWarnings("unchecked")
    private ListView<Channel> list(String words) {
        return shown(
                ListView.class, list -> String.valueOf(list.getAccessibleText()).startsWith(words));
    }

    private void select(ListView<Channel> list, String... names) {
        robot.interact(() -> {
            list.getSelectionModel().clearSelection();
            for (Channel channel : list.getItems()) {
                if (List.of(names).contains(channel.name())) {
                    list.getSelectionModel().select(channel);
                }
            }
            list.requestFocus();
        });
        assertThat(list.getSelectionModel().getSelectedItems()).hasSize(names.length);
    }

    private List<String> members(int place) {
        return model().session().stems().named().get(place).members().stream()
                .map(id -> model().session().channel(id).name())
                .toList();
    }

    @Test
    void stems_are_put_together_by_hand_with_keys_and_mouse_and_every_step_is_undone() throws Exception {
        robot.interact(() -> desk().window().show(Step.STEMS));
        StemsView stems = shown(StemsView.class, view -> true);
        set("What a stem is made of", StemDivision.By.NAMED);
        assertThat(model().session().stems().by()).isEqualTo(StemDivision.By.NAMED);
        select(list("Channels that are stems by themselves"), "Fiddle 1", "Fiddle 2");
        robot.push(KeyCode.ENTER);
        assertThat(members(0)).containsExactly("Fiddle 1", "Fiddle 2");
        TextField name = shown(TextField.class, field -> "Name of the stem".equals(field.getAccessibleText()));
        robot.interact(() -> {
            name.setText("Fiddles");
            name.getOnAction().handle(new ActionEvent());
        });
        assertThat(model().session().stems().named().getFirst().name()).isEqualTo("Fiddles");
        drag("Low whistle", list("Channels in the stem Fiddles"));
        assertThat(members(0)).containsExactly("Fiddle 1", "Fiddle 2", "Low whistle");
        drag("Harmonium", shown(Label.class, label -> label.getText().startsWith("Drop channels here")));
        assertThat(members(1)).containsExactly("Harmonium");
        select(list("Channels in the stem Fiddles"), "Fiddle 2");
        robot.push(KeyCode.DELETE);
        assertThat(members(0)).containsExactly("Fiddle 1", "Low whistle");
        until(() -> stems.ready() && files(stems).contains("01 Fiddles"));
        assertThat(files(stems)).contains("02 Stem").doesNotContain("Harmonium", "Low whistle");
        assertControlsAreNamed();
        for (int i = 0; i < 6; i++) {
            robot.interact(() -> model().undo());
        }
        assertThat(model().session().stems()).isEqualTo(StemDivision.TRACKS);
    }

    @Test
    void how_the_mix_is_divided_stays_whatever_else_is_chosen() throws Exception {
        robot.interact(() -> {
            desk().window().show(Step.STEMS);
            model().edit(StemEdits.add("Voices", List.of(LEAD)));
        });
        StemDivision divided = model().session().stems();
        set("Where stems and mix are taken", StemTap.BEFORE_MAIN);
        set("What compressors and the like on buses do with a stem", Treatment.ALONE);
        set("What compressors and the like on buses do with a stem", Treatment.AS_MIX);
        CheckBox mono = shown(CheckBox.class, box -> box.getText().startsWith("One side"));
        robot.interact(mono::fire);
        robot.interact(mono::fire);
        assertThat(model().session().stems()).isEqualTo(divided);
        // And a session that is opened with a division of its own keeps it when its stems are looked at.
        robot.interact(() -> {
            desk().save();
            openDemo();
            desk().window().show(Step.STEMS);
        });
        assertThat(model().session().stems()).isEqualTo(divided);
        assertThat(model().historyProperty().get().undoName()).isEmpty();
        robot.interact(() -> {
            model().edit(StemEdits.remove(divided.named().getFirst()));
            model().edit(StemEdits.by(StemDivision.By.TRACKS));
            desk().save();
            openDemo();
            desk().window().show(Step.STEMS);
        });
        assertThat(model().session().stems()).isEqualTo(StemDivision.TRACKS);
    }

    private void drag(String channel, Node to) throws Exception {
        select(list("Channels that are stems by themselves"), channel);
        robot.interact(() -> {
            ListView<Channel> alone = list("Channels that are stems by themselves");
            alone.scrollTo(alone.getSelectionModel().getSelectedIndex());
        });
        Thread.sleep(100);
        Node cell = robot.from(desk().window())
                .lookup((Node node) ->
                        node instanceof ListCell<?> one && visible(node) && channel.equals(one.getText()))
                .query();
        super.drag(cell, to);
    }

    /** What the list of files calls them. */
    private static List<String> files(StemsView stems) {
        return stems.lookupAll(".stem-row").stream()
                .map(row -> ((Labeled) row.lookup(".label")).getText())
                .toList();
    }

    @Test
    void returns_a_section_names_and_one_side_change_what_is_foretold() throws Exception {
        robot.interact(() -> desk().window().show(Step.STEMS));
        StemsView stems = shown(StemsView.class, view -> true);
        until(stems::ready);
        List<String> whole = figures(stems);
        CheckBox apart = shown(CheckBox.class, box -> box.getText().equals("Returns apart"));
        robot.interact(apart::fire);
        until(() -> stems.ready() && files(stems).stream().anyMatch(name -> name.endsWith(" Hall")));
        Section chorus = model().session().sections().stream()
                .filter(section -> section.name().equals("Chorus"))
                .findFirst()
                .orElseThrow();
        set("What of the song is rendered", Optional.of(chorus));
        until(() -> stems.ready() && !figures(stems).equals(whole));
        TextField pattern =
                shown(TextField.class, field -> "Pattern of the files' names".equals(field.getAccessibleText()));
        robot.interact(() -> pattern.setText("{song} - {part}"));
        until(() -> files(stems).contains(model().session().title() + " - Lead voice"));
        robot.interact(() -> pattern.setText("{song} - {artist}"));
        assertThat(texts()).anyMatch(text -> text.startsWith("'{artist}' stands for nothing"));
        assertThat(files(stems)).contains(model().session().title() + " - Lead voice");
        robot.interact(() -> pattern.setText(NamePattern.USUAL.text()));
        set("What of the song is rendered", Optional.empty());
    }

    @Test
    void what_bends_the_mix_is_told_before_the_render_with_what_would_help() throws Exception {
        robot.interact(() -> {
            desk().window().show(Step.STEMS);
            model().edit(FlowEdits.addInsert(model().session().main(), Saturator.KIND));
        });
        awaitLevels();
        StemsView stems = shown(StemsView.class, view -> true);
        until(stems::ready);
        assertThat(texts()).anyMatch(text -> text.startsWith("Main treats several stems as one"));
        robot.interact(() -> button("Take them before main").fire());
        until(stems::ready);
        assertThat(texts()).noneMatch(text -> text.startsWith("Main treats several stems as one") && !text.isEmpty());
    }
}
