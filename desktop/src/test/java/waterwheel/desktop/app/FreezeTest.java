package waterwheel.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import javafx.scene.control.Labeled;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import waterwheel.core.freezing.Freezes;
import waterwheel.core.metering.Figures;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.desktop.frame.Step;

/** A channel is frozen from its Path, what is before is locked, and it is computed again. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class FreezeTest extends DrivenApplication {
    private Channel lead() {
        return model().session().channel(LEAD);
    }

    private void freeze() throws Exception {
        robot.interact(() -> {
            desk().window().show(Step.BLEND);
            model().select(LEAD);
        });
        String last = lead().strip().inserts().getLast().processor().kind().label();
        choose("Freeze", "Through " + last);
        until(() -> lead().strip().freeze().isPresent());
        awaitLevels();
    }

    @Test
    void the_path_says_where_it_is_frozen_to_and_the_levels_are_as_before() throws Exception {
        awaitLevels();
        Figures mix = model().levels().main().orElseThrow();
        freeze();
        assertThat(model().levels().frozen()).singleElement().satisfies(one -> assertThat(one.state())
                .isEqualTo(Freezes.State.FRESH));
        assertThat(model().levels().main().orElseThrow()).isEqualTo(mix);
        assertThat(robot.from(desk().window()).lookup(".frozen-mark").queryAll().stream()
                        .filter(DrivenApplication::visible)
                        .map(node -> ((Labeled) node).getText()))
                .containsExactly("frozen to here");
        assertThat(texts()).contains("frozen");
        // It plays.
        robot.interact(() -> {
            model().transport().seek(30);
            model().transport().playOrStop();
        });
        until(() -> model().transport().secondsProperty().get() > 30.5);
        robot.interact(() -> model().transport().stop());
        robot.interact(() -> button("Unfreeze").fire());
        assertThat(lead().strip().freeze()).isEmpty();
        robot.interact(() -> model().undo());
        assertThat(lead().strip().freeze()).isPresent();
    }

    @Test
    void what_is_before_cannot_be_changed_until_it_is_unfrozen_and_what_is_behind_can() throws Exception {
        freeze();
        double trim = lead().strip().trimDb();
        TextField field = shown(
                TextField.class, f -> String.valueOf(f.getAccessibleText()).startsWith("Trim"));
        robot.interact(field::requestFocus);
        robot.interact(() -> field.setText("4.5"));
        robot.push(KeyCode.ENTER);
        assertThat(lead().strip().trimDb()).isEqualTo(trim);
        assertThat(texts()).anyMatch(t -> t.startsWith("Lead voice is frozen through its"));
        robot.interact(() -> button("Leave it").fire());
        assertThat(field.getText()).doesNotContain("4.5");
        robot.interact(() -> field.setText("4.5"));
        robot.push(KeyCode.ENTER);
        robot.interact(() -> button("Unfreeze and change it").fire());
        assertThat(lead().strip().freeze()).isEmpty();
        assertThat(lead().strip().trimDb()).isEqualTo(4.5);
        robot.interact(() -> model().undo());
        assertThat(lead().strip().freeze()).isPresent();
        assertThat(lead().strip().trimDb()).isEqualTo(trim);
    }

    @Test
    void several_that_are_selected_are_frozen_at_once() throws Exception {
        List<ChannelId> two = List.of(LEAD, new ChannelId("fiddle-1"));
        robot.interact(() -> {
            desk().window().show(Step.BLEND);
            model().select(two.getFirst());
            model().toggleSelected(two.getLast());
        });
        choose("Freeze", "The 2 selected, each through its last slot");
        until(() -> two.stream()
                .allMatch(id -> model().session().channel(id).strip().freeze().isPresent()));
        robot.interact(() -> model().undo());
        assertThat(two)
                .noneMatch(id -> model().session().channel(id).strip().freeze().isPresent());
    }
}
