package waterwheel.desktop.inserts;

import java.util.List;
import java.util.function.DoubleUnaryOperator;
import javafx.scene.AccessibleRole;
import javafx.scene.control.Label;
import javafx.scene.layout.Pane;
import javafx.scene.layout.Region;
import javafx.scene.shape.Polyline;
import org.jspecify.annotations.Nullable;
import waterwheel.core.inserts.Processor;
import waterwheel.core.processing.Equalising;
import waterwheel.core.processing.LevelCurve;

/** What a processor does to the level: an equaliser by frequency, what answers to level by level; nothing for the others. */
final class ProcessorCurve extends Pane {
    private static final List<List<Double>> DASHES = List.of(List.of(), List.of(8.0, 4.0), List.of(2.0, 4.0));
    private static final double WIDTH = 230;
    private static final double HEIGHT = 110;
    private static final double LOWEST_HERTZ = 20;
    private static final double HIGHEST_HERTZ = 20_000;
    private static final double EDGE_DB = 24;
    private static final double LOWEST_DBFS = -60;

    private final Polyline line = new Polyline();
    /** Of a multiband compressor, from low to high: full, dashed, dotted. */
    private final Polyline[] bands = {new Polyline(), new Polyline(), new Polyline()};

    private final Polyline even = new Polyline();
    private final Region zero = new Region();
    private final Label left = new Label();
    private final Label right = new Label();
    private final Label top = new Label();

    ProcessorCurve() {
        getStyleClass().add("curve-picture");
        setAccessibleRole(AccessibleRole.IMAGE_VIEW);
        setMinSize(WIDTH, HEIGHT);
        setMaxSize(WIDTH, HEIGHT);
        line.getStyleClass().add("processor-curve");
        for (int band = 0; band < bands.length; band++) {
            bands[band].getStyleClass().add("processor-curve");
            bands[band].getStrokeDashArray().setAll(DASHES.get(band));
        }
        even.getStyleClass().add("processor-even");
        zero.getStyleClass().add("curve-zero");
        for (Label label : new Label[] {left, right, top}) {
            label.getStyleClass().add("curve-edge");
        }
        left.relocate(4, HEIGHT - 18);
        right.relocate(WIDTH - 56, HEIGHT - 18);
        top.relocate(4, 2);
        getChildren().addAll(zero, even, line);
        getChildren().addAll(bands);
        getChildren().addAll(left, right, top);
    }

    void show(@Nullable Processor processor, int sampleRateHz) {
        line.getPoints().clear();
        even.getPoints().clear();
        for (Polyline band : bands) {
            band.getPoints().clear();
        }
        zero.resizeRelocate(0, -1, 0, 0);
        boolean drawn = true;
        if (processor == null) {
            drawn = false;
        } else {
            switch (processor.kind()) {
                case EQUALISER -> {
                    draw(line, x -> y(Equalising.responseDb(processor, hertz(x), sampleRateHz), -EDGE_DB, EDGE_DB));
                    zero.resizeRelocate(0, HEIGHT / 2, WIDTH, 1);
                    left.relocate(4, HEIGHT - 18);
                    say("20 Hz", "20 kHz", "+24 dB");
                }
                case COMPRESSOR, GATE, LIMITER, SATURATOR -> byLevel(level -> LevelCurve.outputDb(processor, level));
                case MULTIBAND -> {
                    for (int band = 0; band < bands.length; band++) {
                        int which = band;
                        draw(bands[band], x -> y(LevelCurve.bandOutputDb(processor, which, level(x)), LOWEST_DBFS, 0));
                    }
                    sayLevels();
                    top.setText("low full, mid dashed, high dotted");
                }
                case STEREO, DELAY, REVERB, CONVOLUTION, TONE -> drawn = false;
            }
        }
        setVisible(drawn);
        setManaged(drawn);
        setAccessibleText(
                processor == null ? "" : "Curve of the " + processor.kind().label());
    }

    private void byLevel(DoubleUnaryOperator outputDb) {
        draw(line, x -> y(outputDb.applyAsDouble(level(x)), LOWEST_DBFS, 0));
        even.getPoints().addAll(0.0, HEIGHT, WIDTH, 0.0);
        zero.resizeRelocate(0, -1, 0, 0);
        sayLevels();
    }

    private void sayLevels() {
        say("\u221260 dBFS", "0 dBFS in", "0 dBFS out");
        // Under the line, which begins in the corner.
        left.relocate(70, HEIGHT - 18);
    }

    private void say(String leftEdge, String rightEdge, String topEdge) {
        left.setText(leftEdge);
        right.setText(rightEdge);
        top.setText(topEdge);
    }

    private static double hertz(double x) {
        return LOWEST_HERTZ * Math.pow(HIGHEST_HERTZ / LOWEST_HERTZ, x / WIDTH);
    }

    private static double level(double x) {
        return LOWEST_DBFS * (1 - x / WIDTH);
    }

    private static double y(double db, double lowest, double highest) {
        return HEIGHT * (1 - (Math.clamp(db, lowest, highest) - lowest) / (highest - lowest));
    }

    private static void draw(Polyline drawn, DoubleUnaryOperator yOf) {
        for (double x = 0; x <= WIDTH; x += 2) {
            drawn.getPoints().addAll(x, yOf.applyAsDouble(x));
        }
    }
}
