package waterwheel.desktop.order;

import javafx.css.PseudoClass;
import javafx.scene.layout.Region;

/**
 * How far something is from its target, drawn level: the target in the middle with its tolerance as a zone, a bar from
 * there to where it is, a dashed end for where a proposal would bring it. What is further off than the scale ends in a
 * point.
 */
final class OffTargetBar extends Region {
    /** The scale's ends, in LU from the target. */
    static final double EDGE_LU = 12;

    private static final PseudoClass OFF = PseudoClass.getPseudoClass("off");
    private static final PseudoClass NEAR = PseudoClass.getPseudoClass("near");
    private static final double MARK = 2;

    private final Region zone = part("zone");
    private final Region target = part("target");
    private final Region fill = part("fill");
    private final Region end = part("end");
    private final Region ghost = part("ghost");
    private double offLu = Double.NaN;
    private double ghostLu = Double.NaN;
    private double toleranceLu = 1;

    OffTargetBar() {
        getStyleClass().add("off-target-bar");
        getChildren().addAll(zone, fill, target, ghost, end);
        setMinSize(40, 12);
        setPrefHeight(12);
        setMaxHeight(12);
        setMouseTransparent(true);
    }

    private static Region part(String styleClass) {
        Region region = new Region();
        region.getStyleClass().add(styleClass);
        return region;
    }

    /**
     * Shows a distance.
     *
     * @param off in LU; NaN where there is no target
     * @param reached where a proposal brings it; NaN for none
     */
    void show(double off, double tolerance, double reached) {
        offLu = off;
        toleranceLu = tolerance;
        ghostLu = reached;
        double far = Math.abs(off);
        pseudoClassStateChanged(OFF, far > 2 * tolerance);
        pseudoClassStateChanged(NEAR, far > tolerance && far <= 2 * tolerance);
        requestLayout();
    }

    private double x(double lu) {
        double part = (Math.clamp(lu, -EDGE_LU, EDGE_LU) + EDGE_LU) / (2 * EDGE_LU);
        return Math.rint(part * (getWidth() - MARK));
    }

    @Override
    protected void layoutChildren() {
        boolean judged = !Double.isNaN(offLu);
        double height = getHeight();
        for (Region part : new Region[] {zone, target, fill, end}) {
            part.setVisible(judged);
        }
        ghost.setVisible(judged && !Double.isNaN(ghostLu));
        if (!judged) {
            return;
        }
        zone.resizeRelocate(x(-toleranceLu), 0, x(toleranceLu) - x(-toleranceLu) + MARK, height);
        target.resizeRelocate(x(0), 0, MARK, height);
        double at = x(offLu);
        double inset = 3;
        fill.resizeRelocate(Math.min(at, x(0)), inset, Math.abs(at - x(0)) + MARK, height - 2 * inset);
        end.resizeRelocate(at, 1, MARK, height - 2);
        if (ghost.isVisible()) {
            ghost.resizeRelocate(Math.min(x(ghostLu), at), 1, Math.abs(x(ghostLu) - at) + MARK, height - 2);
        }
    }
}
