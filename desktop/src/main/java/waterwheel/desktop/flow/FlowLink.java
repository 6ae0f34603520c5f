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

    /** @param levelDb average level, dBFS; NaN where it is not known */
    FlowLink(Node from, Node to, FlowMap.Kind kind, double levelDb) {
        getStyleClass()
                .addAll(
                        "flow-link",
                        switch (kind) {
                            case OUTPUT, EXTRA_OUTPUT -> "flow-output";
                            case SEND -> "flow-send";
                            case KEY -> "flow-key";
                        });
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
        double part = Double.isNaN(levelDb) ? 0.3 : Math.clamp(1 - levelDb / SILENT_DB, 0, 1);
        setStrokeWidth(
                kind == FlowMap.Kind.OUTPUT || kind == FlowMap.Kind.EXTRA_OUTPUT ? 1 + part * (WIDEST - 1) : 1.5);
    }

    void setTraced(boolean traced) {
        pseudoClassStateChanged(DIMMED, !traced);
    }
}
