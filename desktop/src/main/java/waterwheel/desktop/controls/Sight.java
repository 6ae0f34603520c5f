package waterwheel.desktop.controls;

import javafx.geometry.Bounds;
import javafx.scene.Node;
import javafx.scene.control.ScrollPane;

/** Brings what stands in a list that scrolls into sight. */
public final class Sight {
    private Sight() {}

    /** Scrolls up or down by as little as shows a whole node of the list. */
    public static void bring(ScrollPane scroll, Node node) {
        scroll.applyCss();
        scroll.layout();
        Node content = scroll.getContent();
        Bounds place = content.sceneToLocal(node.localToScene(node.getLayoutBounds()));
        double seen = scroll.getViewportBounds().getHeight();
        double hidden = content.getLayoutBounds().getHeight() - seen;
        if (hidden <= 0) {
            return;
        }
        double top = scroll.getVvalue() * hidden;
        double wanted = Math.clamp(top, Math.min(place.getMinY(), place.getMaxY() - seen), place.getMinY());
        scroll.setVvalue(Math.clamp(wanted / hidden, 0, 1));
    }
}
