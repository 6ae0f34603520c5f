package waterwheel.desktop.load;

import javafx.scene.layout.Region;

/** A share of a block's time: filled from the left to the usual, with a mark at the worst. The right end is all of it. */
final class ShareBar extends Region {
    private final Region fill = new Region();
    private final Region mark = new Region();
    private double usual;
    private double worst;

    ShareBar() {
        getStyleClass().add("share-bar");
        fill.getStyleClass().add("share");
        mark.getStyleClass().add("share-worst");
        getChildren().addAll(fill, mark);
        setMinSize(40, 10);
        setPrefHeight(10);
        setMaxHeight(10);
    }

    void show(double usualShare, double worstShare) {
        usual = usualShare;
        worst = worstShare;
        requestLayout();
    }

    @Override
    protected void layoutChildren() {
        double width = getWidth();
        fill.resizeRelocate(0, 0, at(usual) * width, getHeight());
        mark.resizeRelocate(Math.max(0, at(worst) * width - 2), 0, 2, getHeight());
    }

    /** By the square root, so that a hundredth is seen beside a half. */
    private static double at(double share) {
        return Math.sqrt(Math.clamp(share, 0, 1));
    }
}
