package waterwheel.desktop.controls;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.concurrent.TimeUnit;
import javafx.event.EventType;
import javafx.geometry.Bounds;
import javafx.scene.AccessibleAttribute;
import javafx.scene.Node;
import javafx.scene.Scene;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.Tooltip;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.stage.Window;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import waterwheel.desktop.testing.Mouse;

/** What stands beside the pointer when it rests on a control. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class HintTest extends InAWindow {
    private final Button first = new Button("First");
    private final Label second = new Label("Harmonium");
    private final Region inside = new Region();
    private final HBox around = new HBox(inside);
    private final Region bare = new Region();
    private @Nullable Node over;

    @BeforeEach
    void show_controls() {
        robot.interact(() -> {
            for (Region place : new Region[] {first, second, around, bare}) {
                place.setMinSize(200, 40);
            }
            inside.setMinSize(80, 40);
            Hint.on(first, "What the first does");
            Hint.wholeText(second);
            Hint.on(around, "What lies around");
            Hint.on(inside, "What lies inside");
            showScene(new Scene(new VBox(first, second, around, bare), 240, 200));
        });
        // The pointer itself lies where nothing has words; in another window something might.
        robot.moveTo(bare);
    }

    /** The pointer leaves where it was for a place on a control, and stays there; as the toolkit tells it. */
    private void rest(Node node, double along) {
        robot.interact(() -> {
            Bounds bounds = node.localToScene(node.getBoundsInLocal());
            double x = bounds.getMinX() + along * bounds.getWidth();
            double y = bounds.getCenterY();
            Node left = over;
            over = node;
            if (left != null) {
                fire(left, MouseEvent.MOUSE_EXITED_TARGET, x, y);
            }
            fire(node, MouseEvent.MOUSE_ENTERED_TARGET, x, y);
            fire(node, MouseEvent.MOUSE_MOVED, x, y);
        });
    }

    private static void fire(Node node, EventType<MouseEvent> type, double x, double y) {
        Mouse.fire(node, type, x, y, MouseButton.NONE, 0);
    }

    private String shown() {
        StringBuilder text = new StringBuilder();
        robot.interact(() -> Window.getWindows().stream()
                .filter(Tooltip.class::isInstance)
                .forEach(window ->
                        text.append('[').append(((Tooltip) window).getText()).append(']')));
        return text.toString();
    }

    private void assertShows(String words) throws InterruptedException {
        long end = System.nanoTime() + TimeUnit.SECONDS.toNanos(10);
        while (!shown().equals(words) && System.nanoTime() < end) {
            Thread.sleep(20);
        }
        assertThat(shown()).isEqualTo(words);
    }

    @Test
    void words_of_the_control_that_the_pointer_rests_on_are_shown_and_go_with_it() throws Exception {
        rest(first, 0.5);
        assertShows("[What the first does]");
        rest(second, 0.5);
        assertShows("[Harmonium]");
        rest(bare, 0.5);
        assertShows("");
    }

    @Test
    void words_that_change_while_they_are_shown_are_the_new_ones_and_none_show_nothing() throws Exception {
        rest(first, 0.5);
        assertShows("[What the first does]");
        robot.interact(() -> Hint.on(first, "What it does now"));
        assertShows("[What it does now]");
        robot.interact(() -> Hint.on(first, null));
        assertShows("");
        assertThat(Hint.of(first)).isNull();
    }

    @Test
    void a_whole_text_is_what_the_label_says_by_then() throws Exception {
        robot.interact(() -> second.setText("Harmonium, low reeds"));
        rest(second, 0.5);
        assertShows("[Harmonium, low reeds]");
    }

    @Test
    void what_lies_in_another_has_its_own_words_and_gives_way_to_those_around() throws Exception {
        rest(inside, 0.5);
        assertShows("[What lies inside]");
        // Which was never left, and is not entered again.
        robot.interact(() -> {
            Bounds bounds = around.localToScene(around.getBoundsInLocal());
            fire(inside, MouseEvent.MOUSE_EXITED_TARGET, bounds.getMaxX() - 5, bounds.getCenterY());
            fire(around, MouseEvent.MOUSE_MOVED, bounds.getMaxX() - 5, bounds.getCenterY());
        });
        assertShows("[What lies around]");
    }

    @Test
    void screen_readers_are_told_them_where_no_other_help_is_given() {
        robot.interact(() -> {
            assertThat(first.queryAccessibleAttribute(AccessibleAttribute.HELP)).isEqualTo("What the first does");
            first.setAccessibleHelp("ridden");
            Hint.on(first, "What it does now");
            assertThat(first.queryAccessibleAttribute(AccessibleAttribute.HELP)).isEqualTo("ridden");
        });
    }
}
