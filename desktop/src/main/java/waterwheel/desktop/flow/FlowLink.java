package waterwheel.desktop.flow;

import java.util.List;
import javafx.css.PseudoClass;
import javafx.geometry.Bounds;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.shape.CubicCurveTo;
import javafx.scene.shape.LineTo;
import javafx.scene.shape.MoveTo;
import javafx.scene.shape.Path;
import waterwheel.core.units.LevelText;

/** A connection on the map, as wide as the level that runs through it. */
final class FlowLink extends Path {
    private static final PseudoClass DIMMED = PseudoClass.getPseudoClass("dimmed");
    private static final PseudoClass AGAINST = PseudoClass.getPseudoClass("against");
    private static final PseudoClass FRESH = PseudoClass.getPseudoClass("fresh");
    private static final double SILENT_DB = -60;
    private static final double WIDEST = 6;
    private static final double LEAST_PART = 0.005;
    private static final double UNKNOWN = 0.3;
    private static final double BRANCH_WIDTH = 1.5;

    private final Node from;
    private final Node to;
    private final FlowMap.Link link;
    private final List<FlowMap.Lane> lanes;
    private final Label part = new Label();
    private boolean fills;

    FlowLink(Node from, Node to, FlowMap.Link link, List<FlowMap.Lane> lanes) {
        this.from = from;
        this.to = to;
        this.link = link;
        this.lanes = lanes;
        part.getStyleClass().addAll("figure", "peak-part");
        part.setManaged(false);
        part.setMouseTransparent(true);
        part.setVisible(false);
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

    /** What part of a peak comes by it, in words beside its beginning. */
    Label part() {
        return part;
    }

    /** @param ofPeak signed, 1 for all of it; NaN for none */
    void showPart(double ofPeak) {
        fills = !Double.isNaN(ofPeak);
        // What rounds to nothing is not worth a figure.
        part.setVisible(fills && Math.abs(ofPeak) >= LEAST_PART);
        if (part.isVisible()) {
            part.setText(LevelText.signed(100 * ofPeak, 0, true) + " %");
            part.setAccessibleText(part.getText() + " of the peak comes from here");
            part.pseudoClassStateChanged(AGAINST, ofPeak < 0);
            placePart();
        }
    }

    boolean hasPart() {
        return fills;
    }

    private void placePart() {
        Bounds start = from.getBoundsInParent();
        double height = part.prefHeight(-1);
        part.resizeRelocate(start.getMaxX() + 2, start.getCenterY() - height / 2, part.prefWidth(-1), height);
    }

    /** Marks a connection that would be new. */
    void showFresh(boolean fresh) {
        pseudoClassStateChanged(FRESH, fresh);
    }

    FlowMap.Link link() {
        return link;
    }

    /**
     * Runs from where one card is to where the other is, along its lanes past the cards between.
     *
     * @param rowHeight in pixels
     */
    void place(Columns columns, double rowHeight) {
        Bounds start = from.getBoundsInParent();
        Bounds end = to.getBoundsInParent();
        double x = start.getMaxX();
        double y = start.getCenterY();
        getElements().setAll(new MoveTo(x, y));
        placePart();
        for (FlowMap.Lane lane : lanes) {
            double laneX = columns.x(lane.column());
            double laneY = (lane.row() + 0.5) * rowHeight;
            bend(x, y, laneX, laneY, false);
            x = laneX + columns.width(lane.column());
            y = laneY;
            getElements().add(new LineTo(x, y));
        }
        // Within a column it leaves and arrives at the right.
        boolean beside = end.getMinX() < start.getMaxX();
        bend(x, y, beside ? end.getMaxX() : end.getMinX(), end.getCenterY(), beside);
    }

    private void bend(double fromX, double fromY, double toX, double toY, boolean beside) {
        double bend = Math.max(20, Math.abs(toX - fromX) / 2);
        getElements().add(new CubicCurveTo(fromX + bend, fromY, beside ? toX + bend : toX - bend, toY, toX, toY));
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
