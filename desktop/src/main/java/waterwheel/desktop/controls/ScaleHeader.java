package waterwheel.desktop.controls;

import javafx.scene.control.Label;
import javafx.scene.layout.Pane;

/** The figures of the common dB scale, to stand over level bars of the same width. */
public final class ScaleHeader extends Pane {
    private static final int[] MARKS = {-60, -48, -36, -24, -12, 0, 12};

    private static final double WIDE = 190;

    public ScaleHeader() {
        getStyleClass().add("scale-header");
        for (int mark : MARKS) {
            Label label = new Label(mark > 0 ? "+" + mark : String.valueOf(mark).replace('-', '\u2212'));
            label.getStyleClass().add("figure");
            getChildren().add(label);
        }
        setAccessibleText("Scale in dBFS from minus 60 to plus 12");
        setMinHeight(16);
        setPrefHeight(16);
    }

    @Override
    protected void layoutChildren() {
        double free = 0;
        for (int i = 0; i < MARKS.length; i++) {
            Label label = (Label) getChildren().get(i);
            label.autosize();
            double x = LevelScale.x(MARKS[i], getWidth()) - label.getWidth() / 2;
            double place = Math.clamp(x, 0, Math.max(0, getWidth() - label.getWidth()));
            // Where they do not all fit, 0 stands before +12, and what is left of it before the next.
            boolean fits = place >= free && (MARKS[i] <= 0 || getWidth() >= WIDE);
            label.setVisible(fits);
            label.relocate(place, 0);
            free = fits ? place + label.getWidth() + 2 : free;
        }
    }
}
