package waterwheel.desktop.meters;

import javafx.css.PseudoClass;
import javafx.scene.AccessibleRole;
import javafx.scene.control.Label;
import javafx.scene.layout.Pane;
import javafx.scene.layout.Region;
import waterwheel.core.units.LevelText;

/** A VU reading on a horizontal scale of dB from -20 to +6, with 0 VU marked. */
final class VuScale extends Pane {
    static final double LOWEST_VU = -20;
    private static final double HIGHEST_VU = 6;
    private static final double MARKS_HEIGHT = 12;
    private static final double[] MARKS = {-20, -10, -7, -5, -3, 0, 3, 6};
    private static final PseudoClass HOT = PseudoClass.getPseudoClass("hot");

    private final Region fill = new Region();
    private final Region zero = new Region();
    private double vu = Double.NEGATIVE_INFINITY;

    VuScale() {
        getStyleClass().add("vu-scale");
        setAccessibleRole(AccessibleRole.IMAGE_VIEW);
        setMinSize(240, 22);
        setPrefHeight(22);
        setMaxHeight(22);
        fill.getStyleClass().add("vu-fill");
        zero.getStyleClass().add("vu-zero");
        getChildren().addAll(fill, zero);
        for (double mark : MARKS) {
            Label label = new Label(LevelText.signed(mark, 0, true));
            label.getStyleClass().add("vu-mark");
            label.setUserData(mark);
            getChildren().add(label);
        }
    }

    void show(double value) {
        if (value != vu) {
            vu = value;
            pseudoClassStateChanged(HOT, value > 0);
            setAccessibleText(value < LOWEST_VU ? "at rest" : LevelText.level(value, "VU"));
            requestLayout();
        }
    }

    private double x(double value) {
        return Math.clamp((value - LOWEST_VU) / (HIGHEST_VU - LOWEST_VU), 0, 1) * getWidth();
    }

    @Override
    protected void layoutChildren() {
        fill.resizeRelocate(0, MARKS_HEIGHT, x(vu), getHeight() - MARKS_HEIGHT);
        zero.resizeRelocate(snapPositionX(x(0)), MARKS_HEIGHT, 2, getHeight() - MARKS_HEIGHT);
        for (var child : getChildren()) {
            if (child instanceof Label label && label.getUserData() instanceof Double mark) {
                double width = label.prefWidth(-1);
                double left = Math.clamp(x(mark) - width / 2, 0, Math.max(0, getWidth() - width));
                label.resizeRelocate(left, 0, width, MARKS_HEIGHT);
            }
        }
    }
}
