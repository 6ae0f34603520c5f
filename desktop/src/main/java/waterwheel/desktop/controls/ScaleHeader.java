package waterwheel.desktop.controls;

import javafx.scene.control.Label;
import javafx.scene.layout.Pane;

/** The figures of the common dB scale, to stand over level bars of the same width. */
public final class ScaleHeader extends Pane {
    private static final int[] MARKS = {-60, -48, -36, -24, -12, 0, 12};

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
        for (int i = 0; i < MARKS.length; i++) {
            Label label = (Label) getChildren().get(i);
            label.autosize();
            double x = LevelScale.x(MARKS[i], getWidth()) - label.getWidth() / 2;
            label.relocate(Math.clamp(x, 0, Math.max(0, getWidth() - label.getWidth())), 0);
        }
    }
}
