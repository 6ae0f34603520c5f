package waterwheel.desktop.outboard;

import java.util.ArrayList;
import java.util.List;
import javafx.geometry.Bounds;
import javafx.scene.Node;
import javafx.scene.layout.Pane;
import javafx.scene.shape.CubicCurve;
import javafx.scene.shape.Shape;

/** The cables between ports and loops, drawn over both. */
final class LoopLinks extends Pane {
    /** From a node's right edge to another's left edge. */
    record Link(Node from, Node to, boolean chosen) {}

    private List<Link> links = List.of();

    LoopLinks() {
        setMouseTransparent(true);
        setManaged(false);
        getStyleClass().add("loop-links");
    }

    void show(List<Link> shown) {
        links = List.copyOf(shown);
        draw();
    }

    /** Draws them anew where things lie now. */
    void draw() {
        List<Shape> curves = new ArrayList<>();
        for (Link link : links) {
            if (link.from().getScene() == null || link.to().getScene() == null) {
                continue;
            }
            Bounds from = sceneToLocal(link.from().localToScene(link.from().getBoundsInLocal()));
            Bounds to = sceneToLocal(link.to().localToScene(link.to().getBoundsInLocal()));
            double middle = (from.getMaxX() + to.getMinX()) / 2;
            CubicCurve curve = new CubicCurve(
                    from.getMaxX(),
                    from.getCenterY(),
                    middle,
                    from.getCenterY(),
                    middle,
                    to.getCenterY(),
                    to.getMinX(),
                    to.getCenterY());
            curve.getStyleClass().addAll("loop-link", link.chosen() ? "loop-link-chosen" : "loop-link-other");
            curves.add(curve);
        }
        getChildren().setAll(curves);
    }
}
