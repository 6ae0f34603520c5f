package waterwheel.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;

import javafx.scene.Node;
import javafx.scene.control.ListView;
import javafx.scene.control.TextInputControl;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import waterwheel.core.findings.Finding;
import waterwheel.desktop.frame.FindAnything;
import waterwheel.desktop.frame.Step;

/** One key, a few letters, Enter: from anywhere to any command, channel or finding. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class FindAnythingTest extends DrivenApplication {
    private void type(String text) {
        robot.push(KeyCode.F2);
        robot.interact(() -> ((TextInputControl) focused()).setText(text));
    }

    private Node focused() {
        return desk().window().getScene().getFocusOwner();
    }

    private ListView<?> found() {
        return robot.from(desk().window()).lookup(".find-anything .list-view").queryListView();
    }

    private boolean isSeen(Step step) {
        Node view = desk().window().view(step);
        return view != null && visible(view);
    }

    private boolean isOpen() {
        return !robot.from(desk().window()).lookup(".find-anything").queryAll().isEmpty();
    }

    @Test
    void a_channel_is_selected_by_a_part_of_its_name() {
        type("bass mic");
        robot.push(KeyCode.ENTER);
        assertThat(model().selectedChannel().name()).isEqualTo("Double bass mic");
        assertThat(isOpen()).isFalse();
    }

    @Test
    void a_command_runs_wherever_it_stands_in_the_menus() {
        type("blend");
        assertThat(found().getItems()).isNotEmpty();
        robot.push(KeyCode.ENTER);
        assertThat(isSeen(Step.BLEND)).isTrue();
    }

    @Test
    void a_chapter_of_the_guide_opens() {
        type("freeze through");
        robot.push(KeyCode.ENTER);
        assertThat(robot.from(desk().window())
                        .lookup(".guide-title")
                        .queryLabeled()
                        .getText())
                .isEqualTo("Freeze through an insert");
        robot.push(KeyCode.ESCAPE);
        assertThat(robot.from(desk().window()).lookup(".guide").queryAll()).isEmpty();
    }

    @Test
    void a_finding_leads_to_its_step_channel_and_place() {
        Finding finding = model().findingsProperty().get().stream()
                .filter(one -> one.atSeconds().isPresent())
                .findFirst()
                .orElseThrow();
        type(finding.sentence());
        robot.push(KeyCode.ENTER);
        assertThat(model().selectedChannel().id()).isEqualTo(finding.channel());
        assertThat(isSeen(Step.of(finding))).isTrue();
    }

    @Test
    void arrow_keys_choose_and_Escape_leaves_everything_as_it_was() {
        robot.push(KeyCode.F2);
        int all = found().getItems().size();
        assertThat(all)
                .as("every channel and more")
                .isGreaterThan(model().session().channels().size() + 20);
        robot.push(KeyCode.DOWN);
        robot.push(KeyCode.DOWN);
        robot.push(KeyCode.UP);
        assertThat(found().getSelectionModel().getSelectedIndex()).isEqualTo(1);
        robot.interact(() -> ((TextInputControl) focused()).setText("no such thing"));
        assertThat(found().getItems()).isEmpty();
        robot.push(KeyCode.ENTER);
        assertThat(isOpen()).as("nothing to go to").isTrue();
        robot.push(KeyCode.ESCAPE);
        assertThat(isOpen()).isFalse();
        assertThat(model().selectedChannel().id()).isEqualTo(model().session().mainId());
        assertThat(isSeen(Step.STAGING)).isTrue();
    }

    @Test
    void what_is_chosen_comes_from_the_menus_as_they_are_now() {
        robot.interact(() -> model().select(LEAD));
        type("undo");
        assertThat(found().getItems()).as("there is nothing to undo").allSatisfy(thing -> assertThat(
                        ((FindAnything.Thing) thing).name())
                .doesNotStartWith("Undo"));
        robot.push(KeyCode.ESCAPE);
    }
}
