package waterwheel.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;

import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.control.Label;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.Pane;
import javafx.scene.text.Text;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;

/** The time over the lanes. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class SongTimeTest extends DrivenApplication {
    private static String letters(Node label) {
        return label.lookup(".text") instanceof Text text ? text.getText() : "none";
    }

    @Test
    void what_is_made_for_a_picture_has_its_letters_in_that_picture() {
        robot.interact(() -> model().select(LEAD));
        robot.push(KeyCode.CONTROL, KeyCode.DIGIT6);
        Parent time = robot.lookup(".song-time").query();
        robot.interact(() -> {
            Pane sections = (Pane) time.lookup(".section").getParent();
            sections.getChildren().clear();
            time.requestLayout();
            time.layout();
            assertThat(time.lookupAll(".section"))
                    .filteredOn(label -> !((Label) label).getText().isEmpty())
                    .isNotEmpty()
                    .allSatisfy(label -> assertThat(letters(label)).isEqualTo(((Label) label).getText()));
        });
    }
}
