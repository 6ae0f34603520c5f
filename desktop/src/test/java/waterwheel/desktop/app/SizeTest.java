package waterwheel.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import javafx.geometry.Bounds;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.input.MouseEvent;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import waterwheel.core.session.ChannelId;
import waterwheel.desktop.controls.LevelBar;
import waterwheel.desktop.frame.Step;

/** Text and controls larger, in the window as it is. */
class SizeTest extends DrivenApplication {
    private static final ChannelId STOMP = new ChannelId("stomp-board");

    @AfterEach
    void as_it_was() {
        robot.interact(() -> desk().setPercent(100));
    }

    private void enlarge(int percent) {
        robot.interact(() -> {
            desk().setPercent(percent);
            desk().window().getScene().getRoot().layout();
        });
    }

    private static Bounds inScene(Node node) {
        return node.localToScene(node.getLayoutBounds());
    }

    /** The headless screen is no larger than what the content wants, so that a window is made that is smaller. */
    @Test
    void all_is_drawn_as_large_as_is_wanted_and_the_window_has_room_for() {
        Button content = new Button("Play");
        Sized sized = new Sized(content);
        sized.resize(1_920, 1_200);
        for (int percent : Sized.PERCENT) {
            sized.set(percent);
            sized.layout();
            assertThat(sized.shownPercent()).isEqualTo(percent);
            assertThat(content.getWidth()).isCloseTo(192_000.0 / percent, within(1.0));
            assertThat(inScene(content).getWidth()).as("filled").isCloseTo(1_920, within(1.0));
        }
        sized.resize(1_536, 1_200);
        sized.layout();
        assertThat(sized.shownPercent()).as("1536 by 1280").isEqualTo(120);
        sized.resize(960, 720);
        sized.layout();
        assertThat(content.getWidth()).as("nothing is cut in a small window").isCloseTo(1_280, within(1.0));
    }

    @Test
    void a_size_is_kept_and_what_it_wants_is_said() {
        enlarge(150);
        assertThat(desk().settings().percent()).isEqualTo(150);
        assertThat(texts()).anyMatch(text -> text.endsWith("150 % wants one of 1920 x 1080 pixels."));
    }

    @Test
    void a_drag_goes_by_the_scale_as_it_is_drawn() {
        robot.interact(() -> desk().window().show(Step.STAGING));
        enlarge(150);
        robot.interact(() -> {
            Node row = row("Stomp board");
            LevelBar bar = (LevelBar) row.lookup(".level-bar");
            Bounds drawn = inScene(bar);
            double before = trim(STOMP);
            double y = inScene(row).getCenterY();
            // The scale reaches from -60 to +12 dB, so that a twelfth of it is 6 dB.
            double from = drawn.getMinX() + drawn.getWidth() / 2;
            double to = from + drawn.getWidth() / 12;
            fire(row, MouseEvent.MOUSE_PRESSED, from, y);
            fire(row, MouseEvent.MOUSE_DRAGGED, to, y);
            fire(row, MouseEvent.MOUSE_RELEASED, to, y);
            assertThat(trim(STOMP) - before).isCloseTo(6, within(0.3));
        });
    }
}
