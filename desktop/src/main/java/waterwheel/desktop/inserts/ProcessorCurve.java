package waterwheel.desktop.inserts;

import java.util.function.DoubleUnaryOperator;
import javafx.scene.AccessibleRole;
import javafx.scene.control.Label;
import javafx.scene.layout.Pane;
import javafx.scene.layout.Region;
import javafx.scene.shape.Polyline;
import org.jspecify.annotations.Nullable;
import waterwheel.core.inserts.Processor;
import waterwheel.core.processing.Compression;
import waterwheel.core.processing.Equalising;

/** What a processor does to the level: an equaliser by frequency, a compressor by level; nothing for the others. */
final class ProcessorCurve extends Pane {
    private static final double WIDTH = 260;
    private static final double HEIGHT = 110;
    private static final double LOWEST_HERTZ = 20;
    private static final double HIGHEST_HERTZ = 20_000;
    private static final double EDGE_DB = 24;
    private static final double LOWEST_DBFS = -60;

    private final Polyline line = new Polyline();
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
        even.getStyleClass().add("processor-even");
        zero.getStyleClass().add("curve-zero");
        for (Label label : new Label[] {left, right, top}) {
            label.getStyleClass().add("curve-edge");
        }
        left.relocate(4, HEIGHT - 18);
        right.relocate(WIDTH - 56, HEIGHT - 18);
        top.relocate(4, 2);
        getChildren().addAll(zero, even, line, left, right, top);
    }

    void show(@Nullable Processor processor, int sampleRateHz) {
        line.getPoints().clear();
        even.getPoints().clear();
        boolean drawn = true;
        if (processor == null) {
            drawn = false;
        } else {
            switch (processor.kind()) {
                case EQUALISER -> {
                    draw(x -> y(Equalising.responseDb(processor, hertz(x), sampleRateHz), -EDGE_DB, EDGE_DB));
                    zero.resizeRelocate(0, HEIGHT / 2, WIDTH, 1);
                    say("20 Hz", "20 kHz", "+24 dB");
                }
                case COMPRESSOR -> {
                    draw(x -> y(Compression.outputDb(processor, level(x)), LOWEST_DBFS, 0));
                    even.getPoints().addAll(0.0, HEIGHT, WIDTH, 0.0);
                    zero.resizeRelocate(0, -1, 0, 0);
                    say("-60 dBFS", "0 dBFS in", "0 dBFS out");
                }
                case MULTIBAND, GATE, LIMITER, SATURATOR, STEREO, DELAY, REVERB, CONVOLUTION, TONE -> drawn = false;
            }
        }
        setVisible(drawn);
        setManaged(drawn);
        setAccessibleText(
                processor == null ? "" : "Curve of the " + processor.kind().label());
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

    private void draw(DoubleUnaryOperator yOf) {
        for (double x = 0; x <= WIDTH; x += 2) {
            line.getPoints().addAll(x, yOf.applyAsDouble(x));
        }
    }
}
