package waterwheel.desktop.controls;

import javafx.scene.layout.Region;

/** A bar over part of its width, from one place to another, with a mark where there is something to mark; all 0 to 1. */
public final class SpanBar extends Region {
    private static final double LEAST_PIXELS = 2;

    private final Region fill = new Region();
    private final Region mark = new Region();
    private double from;
    private double to;
    private double marked;

    public SpanBar() {
        getStyleClass().add("share-bar");
        fill.getStyleClass().add("share");
        mark.getStyleClass().add("share-worst");
        getChildren().addAll(fill, mark);
        setMinSize(40, 10);
        setPrefHeight(10);
        setMaxHeight(10);
        mark.setVisible(false);
    }

    /** Shows a bar without a mark. */
    public void show(double begin, double end) {
        from = begin;
        to = end;
        requestLayout();
    }

    /** Shows a bar from the left, and a mark. */
    public void showMarked(double end, double place) {
        mark.setVisible(true);
        marked = place;
        show(0, end);
    }

    @Override
    protected void layoutChildren() {
        double width = getWidth();
        fill.resizeRelocate(from * width, 0, Math.max(LEAST_PIXELS, (to - from) * width), getHeight());
        mark.resizeRelocate(Math.max(0, marked * width - LEAST_PIXELS), 0, LEAST_PIXELS, getHeight());
    }
}
