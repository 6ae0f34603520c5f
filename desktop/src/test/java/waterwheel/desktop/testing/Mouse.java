package waterwheel.desktop.testing;

import javafx.event.Event;
import javafx.event.EventType;
import javafx.geometry.Point2D;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;

/** Mouse events as the toolkit sends them to a control, wherever the pointer itself is. Interface thread. */
public final class Mouse {
    private Mouse() {}

    /** Sends an event of the first button at a place in the scene, one click. */
    public static void fire(Node node, EventType<MouseEvent> type, double sceneX, double sceneY) {
        fire(node, type, sceneX, sceneY, MouseButton.PRIMARY, 1);
    }

    /** Sends an event at a place in the scene; a button is down until it is released. */
    public static void fire(
            Node node, EventType<MouseEvent> type, double sceneX, double sceneY, MouseButton button, int clicks) {
        Parent root = node.getScene().getRoot();
        Point2D screen = root.localToScreen(root.sceneToLocal(sceneX, sceneY));
        boolean down = button == MouseButton.PRIMARY && type != MouseEvent.MOUSE_RELEASED;
        Event.fireEvent(
                node,
                new MouseEvent(
                        type,
                        sceneX,
                        sceneY,
                        screen.getX(),
                        screen.getY(),
                        button,
                        clicks,
                        false,
                        false,
                        false,
                        false,
                        down,
                        false,
                        false,
                        false,
                        false,
                        false,
                        null));
    }
}
