package waterwheel.desktop.inserts;

import javafx.scene.AccessibleRole;
import javafx.scene.layout.Region;

/** By how much a processor turns down now, drawn from the right, where it does nothing, to 24 dB at the left. */
final class ReductionBar extends Region {
    private static final double MOST_DB = 24;
    private static final double FALL_DB_PER_SECOND = 30;

    private final Region fill = new Region();
    private double shownDb;

    ReductionBar() {
        getStyleClass().add("reduction-bar");
        setAccessibleRole(AccessibleRole.TEXT);
        setMinSize(120, 10);
        setMaxSize(120, 10);
        fill.getStyleClass().add("reduction");
        getChildren().add(fill);
    }

    /** Shows the most since the last call; the bar falls back slowly enough to be seen. Returns what it shows, in dB. */
    double show(double db, double seconds) {
        shownDb = Math.max(db, Math.max(0, shownDb - FALL_DB_PER_SECOND * seconds));
        requestLayout();
        return shownDb;
    }

    @Override
    protected void layoutChildren() {
        double part = Math.min(1, shownDb / MOST_DB) * getWidth();
        fill.resizeRelocate(getWidth() - part, 0, part, getHeight());
    }
}
