package waterwheel.desktop.controls;

import javafx.geometry.Bounds;
import javafx.scene.Node;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.Region;

/** What of a list that scrolls is in sight. */
public final class Sight {
    private Sight() {}

    /** Scrolls up or down by as little as shows a whole node of the list. */
    public static void bring(ScrollPane scroll, Node node) {
        scroll.applyCss();
        scroll.layout();
        Bounds place = scroll.getContent().sceneToLocal(node.localToScene(node.getLayoutBounds()));
        bring(scroll, place.getMinY(), place.getMaxY());
    }

    /** Shows a list as high as it is, up to a height in pixels from which on it scrolls. */
    public static void fit(ScrollPane scroll, Region list, double most) {
        scroll.setContent(list);
        list.heightProperty().subscribe(height -> {
            double fitting = Math.min(height.doubleValue() + 2, most);
            scroll.setMinHeight(fitting);
            scroll.setPrefHeight(fitting);
        });
    }

    /** Scrolls up or down by as little as shows a whole stretch of what is laid out already. */
    static void bring(ScrollPane scroll, double from, double to) {
        double seen = scroll.getViewportBounds().getHeight();
        double hidden = scroll.getContent().getLayoutBounds().getHeight() - seen;
        if (hidden <= 0) {
            return;
        }
        double top = scroll.getVvalue() * hidden;
        double wanted = Math.clamp(top, Math.min(from, to - seen), from);
        scroll.setVvalue(Math.clamp(wanted / hidden, 0, 1));
    }
}
