package waterwheel.desktop.controls;

import java.util.function.DoubleUnaryOperator;
import javafx.scene.AccessibleRole;
import javafx.scene.layout.Region;
import javafx.scene.shape.Polygon;
import org.jspecify.annotations.Nullable;
import waterwheel.core.filefacts.Overview;

/**
 * A file's waveform: the range of its samples as a shape, its RMS as a denser one inside, full scale as the height.
 * Style classes {@code range}, {@code body} and {@code over}; what lies beyond full scale is held at the edge and marked.
 */
public final class Waveform extends Region {
    private final Polygon range = part("range");
    private final Polygon body = part("body");
    private final Region zero = new Region();
    private @Nullable Overview overview;
    private double from;
    private double to = 1;
    private DoubleUnaryOperator gain = place -> 1;
    private double drawnWidth = -1;
    private double drawnHeight = -1;

    public Waveform() {
        getStyleClass().add("waveform");
        setAccessibleRole(AccessibleRole.IMAGE_VIEW);
        setAccessibleText("Waveform");
        zero.getStyleClass().add("zero");
        zero.setManaged(false);
        getChildren().addAll(zero, range, body);
        setMinSize(0, 0);
    }

    private static Polygon part(String styleClass) {
        Polygon polygon = new Polygon();
        polygon.getStyleClass().add(styleClass);
        polygon.setManaged(false);
        polygon.setMouseTransparent(true);
        return polygon;
    }

    /** Shows a file's overview, or nothing while it is not known. */
    public void show(@Nullable Overview value) {
        if (overview != value) {
            overview = value;
            drawnWidth = -1;
            requestLayout();
        }
    }

    /**
     * Shows a part of an overview, as it sounds after a gain.
     *
     * @param fromPart where the part begins, 0 for the overview's beginning; may lie before it
     * @param toPart where it ends, 1 for the overview's end; may lie behind it
     * @param gainAt linear gain by place, from 0 at the left to 1 at the right of what is shown
     */
    public void show(@Nullable Overview value, double fromPart, double toPart, DoubleUnaryOperator gainAt) {
        overview = value;
        from = fromPart;
        to = toPart;
        gain = gainAt;
        drawnWidth = -1;
        requestLayout();
    }

    @Override
    protected double computePrefHeight(double width) {
        return 28;
    }

    @Override
    protected double computePrefWidth(double height) {
        return 200;
    }

    @Override
    protected void layoutChildren() {
        double width = getWidth();
        double height = getHeight();
        zero.resizeRelocate(0, snapPositionY(height / 2), width, 1);
        if (width == drawnWidth && height == drawnHeight) {
            return;
        }
        drawnWidth = width;
        drawnHeight = height;
        Overview shown = overview;
        range.getPoints().clear();
        body.getPoints().clear();
        if (shown == null || shown.stretches() == 0 || width < 2) {
            return;
        }
        double stretches = shown.stretches();
        double first = from * stretches;
        double last = to * stretches;
        // A column for every pixel, or for every stretch where those are wider, drawn at its middle.
        double step = Math.max(1, (last - first) / width);
        int begin = (int) Math.max(0, Math.floor(first / step));
        int end = (int) Math.min(Math.ceil(stretches / step), Math.ceil(last / step));
        int columns = Math.max(0, end - begin);
        Double[] upper = new Double[2 * columns];
        Double[] lower = new Double[2 * columns];
        Double[] dense = new Double[2 * columns];
        Double[] denseBelow = new Double[2 * columns];
        for (int c = 0; c < columns; c++) {
            int a = (int) Math.min(stretches - 1, (begin + c) * step);
            int b = (int) Math.clamp((begin + c + 1) * step, a + 1, stretches);
            double place = ((begin + c + 0.5) * step - first) / (last - first);
            double x = place * width;
            double factor = gain.applyAsDouble(Math.clamp(place, 0, 1));
            put(upper, c, x, y(shown.highest(a, b) * factor, height));
            put(lower, columns - 1 - c, x, y(shown.lowest(a, b) * factor, height));
            double rms = shown.rms(a, b) * factor;
            put(dense, c, x, y(rms, height));
            put(denseBelow, columns - 1 - c, x, y(-rms, height));
        }
        range.getPoints().addAll(upper);
        range.getPoints().addAll(lower);
        body.getPoints().addAll(dense);
        body.getPoints().addAll(denseBelow);
    }

    private static void put(Double[] points, int index, double x, double y) {
        points[2 * index] = x;
        points[2 * index + 1] = y;
    }

    /** At least half a pixel from the middle, so that soft parts leave a line. */
    private static double y(double sample, double height) {
        double held = Math.clamp(sample, -1, 1);
        double away = held >= 0 ? Math.max(0.5, held * height / 2) : Math.min(-0.5, held * height / 2);
        return height / 2 - away;
    }
}
