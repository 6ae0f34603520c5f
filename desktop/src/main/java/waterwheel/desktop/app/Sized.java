package waterwheel.desktop.app;

import java.util.List;
import javafx.scene.layout.Region;
import javafx.scene.transform.Scale;

/**
 * Shows what it holds larger, text and controls alike, as far as the window has room for it; and smaller where it would not
 * fit at all, so that nothing is ever cut or lies over something else.
 */
final class Sized extends Region {
    /** Sizes to choose from, in percent. */
    static final List<Integer> PERCENT = List.of(100, 110, 125, 150);

    /** What the content wants at 100 %, in pixels. */
    static final double LEAST_WIDTH = 1_280;

    static final double LEAST_HEIGHT = 720;

    private final Region content;
    private final Scale scale = new Scale(1, 1);
    private double wanted = 1;

    Sized(Region content) {
        this.content = content;
        content.getTransforms().add(scale);
        getChildren().add(content);
    }

    /** Sets the size. */
    void set(int percent) {
        wanted = percent / 100.0;
        requestLayout();
    }

    private double factor() {
        return Math.min(wanted, Math.min(getWidth() / LEAST_WIDTH, getHeight() / LEAST_HEIGHT));
    }

    /** How large it is shown, in percent. */
    int shownPercent() {
        return (int) Math.round(100 * factor());
    }

    /** How wide a window has to be for a size in percent, in pixels. */
    static int widthFor(int percent) {
        return (int) Math.ceil(LEAST_WIDTH * percent / 100);
    }

    /** How high a window has to be for a size in percent, in pixels. */
    static int heightFor(int percent) {
        return (int) Math.ceil(LEAST_HEIGHT * percent / 100);
    }

    @Override
    protected void layoutChildren() {
        double factor = factor();
        scale.setX(factor);
        scale.setY(factor);
        content.resizeRelocate(0, 0, getWidth() / factor, getHeight() / factor);
    }
}
