package waterwheel.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import javafx.event.ActionEvent;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Labeled;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import waterwheel.core.edit.Edits;
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
}
