package waterwheel.desktop.flow;

import javafx.css.PseudoClass;
import javafx.geometry.Bounds;
import javafx.scene.Node;
import javafx.scene.shape.CubicCurve;
import waterwheel.core.routing.FlowMap;

/** A connection on the map, as wide as the level that runs through it. */
final class FlowLink extends CubicCurve {
    private static final PseudoClass DIMMED = PseudoClass.getPseudoClass("dimmed");
    private static final double SILENT_DB = -60;
    private static final double WIDEST = 6;
    private static final double UNKNOWN = 0.3;
    private static final double BRANCH_WIDTH = 1.5;

    private final Node from;
    private final Node to;
    private final FlowMap.Link link;

    FlowLink(Node from, Node to, FlowMap.Link link) {
        this.from = from;
        this.to = to;
        this.link = link;
        getStyleClass()
                .addAll(
                        "flow-link",
                        switch (link.kind()) {
                            case OUTPUT, EXTRA_OUTPUT -> "flow-output";
                            case SEND -> "flow-send";
                            case KEY -> "flow-key";
                            case TAP -> "flow-tap";
                        });
    }

    FlowMap.Link link() {
        return link;
    }

    /** Runs from where one card is to where the other is. */
    void place() {
        Bounds start = from.getBoundsInParent();
        Bounds end = to.getBoundsInParent();
        setStartX(start.getMaxX());
        setStartY(start.getCenterY());
        // Within a column it leaves and arrives at the right.
        boolean beside = end.getMinX() < start.getMaxX();
        setEndX(beside ? end.getMaxX() : end.getMinX());
        setEndY(end.getCenterY());
        double bend = Math.max(20, Math.abs(getEndX() - getStartX()) / 2);
        setControlX1(getStartX() + bend);
        setControlY1(getStartY());
        setControlX2(beside ? getEndX() + bend : getEndX() - bend);
        setControlY2(getEndY());
    }

    /** @param levelDb average level, dBFS; NaN where it is not known */
    void show(double levelDb) {
        boolean branch = link.kind() != FlowMap.Kind.OUTPUT && link.kind() != FlowMap.Kind.EXTRA_OUTPUT;
        double part = Double.isNaN(levelDb) ? UNKNOWN : Math.clamp(1 - levelDb / SILENT_DB, 0, 1);
        setStrokeWidth(branch ? BRANCH_WIDTH : 1 + part * (WIDEST - 1));
    }

    void setTraced(boolean traced) {
        pseudoClassStateChanged(DIMMED, !traced);
    }
}
