package waterwheel.desktop.inserts;

import java.util.List;
import java.util.function.DoubleUnaryOperator;
import javafx.scene.AccessibleRole;
import javafx.scene.control.Label;
import javafx.scene.layout.Pane;
import javafx.scene.layout.Region;
import javafx.scene.shape.Polyline;
import org.jspecify.annotations.Nullable;
import waterwheel.core.filefacts.FileFacts;
import waterwheel.core.inserts.Processor;
import waterwheel.core.processing.Equalising;
import waterwheel.core.processing.LevelCurve;
import waterwheel.core.processing.StereoTool;
import waterwheel.core.processing.TimeCurve;
import waterwheel.core.units.LevelText;

/**
 * What a processor does: an equaliser by frequency, what answers to level by level, echoes and reverbs over time, a
 * stereo tool from each side to both; nothing for test signals.
 */
final class ProcessorCurve extends Pane {
    private static final List<List<Double>> DASHES = List.of(List.of(), List.of(8.0, 4.0), List.of(2.0, 4.0));
    private static final double WIDTH = 230;
    private static final double HEIGHT = 110;
    private static final double TIME_LABEL = 142;
    private static final double LOWEST_HERTZ = 20;
    private static final double HIGHEST_HERTZ = 20_000;
    private static final double EDGE_DB = 24;
    private static final double LOWEST_DBFS = -60;

    /** What was drawn last; levels that arrive change nothing about it. */
    private record Shown(
            @Nullable Processor processor,
            int sampleRateHz,
            @Nullable FileFacts response) {}

    private @Nullable Shown shown;
    private final Polyline line = new Polyline();
    /** Further lines, full, dashed and dotted: a multiband compressor's from low to high. */
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
        getChildren().addAll(zero, even, line);
        getChildren().addAll(bands);
        getChildren().addAll(left, right, top);
    }

    /** @param response the facts of the file that a convolution works with; null where there are none */
    void show(@Nullable Processor processor, int sampleRateHz, @Nullable FileFacts response) {
        Shown now = new Shown(processor, sampleRateHz, response);
        if (now.equals(shown)) {
            return;
        }
        shown = now;
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
                case DELAY -> echoes(processor);
                case REVERB -> tail(processor, sampleRateHz);
                case CONVOLUTION -> {
                    drawn = response != null && !response.silent();
                    if (response != null) {
                        response(processor, response);
                    }
                }
                case STEREO -> sides(processor);
                case TONE -> drawn = false;
            }
        }
        setVisible(drawn);
        setManaged(drawn);
        setAccessibleText(
                processor == null ? "" : "Curve of the " + processor.kind().label());
    }

    private void echoes(Processor delay) {
        double length = 1.1 * TimeCurve.lastingSeconds(delay);
        line.getPoints().addAll(0.0, HEIGHT);
        for (TimeCurve.Echo echo : TimeCurve.echoes(delay)) {
            double x = WIDTH * echo.seconds() / length;
            line.getPoints().addAll(x, HEIGHT, x, y(echo.db(), TimeCurve.GONE_DB, 0), x, HEIGHT);
        }
        sayTime(length, "each echo");
    }

    private void tail(Processor reverb, int sampleRateHz) {
        double length = 1.1 * TimeCurve.lastingSeconds(reverb);
        double high = reverb.value("dampingHz");
        drawTail(line, reverb, length, 0, sampleRateHz);
        drawTail(bands[1], reverb, length, high, sampleRateHz);
        sayTime(length, "dashed: at " + LevelText.signed(high / 1_000, 1, false) + " kHz");
    }

    private static void drawTail(Polyline drawn, Processor reverb, double length, double hertz, int sampleRateHz) {
        draw(drawn, x -> y(TimeCurve.tailDb(reverb, x / WIDTH * length, hertz, sampleRateHz), TimeCurve.GONE_DB, 0));
    }

    private void response(Processor convolution, FileFacts facts) {
        double late = convolution.value("preDelayMs") / 1_000;
        double seconds = (double) facts.format().frames() / facts.format().sampleRateHz();
        double length = late + seconds;
        double[] levels = facts.overview().levelsDb((int) WIDTH / 2);
        if (late > 0) {
            line.getPoints().addAll(0.0, HEIGHT, WIDTH * late / length, HEIGHT);
        }
        for (int i = 0; i < levels.length; i++) {
            double x = WIDTH * (late + seconds * i / levels.length) / length;
            line.getPoints().addAll(x, y(levels[i], TimeCurve.GONE_DB, 0));
        }
        sayTime(length, "level of the file");
    }

    /** What the axes are, at the right, where echoes and tails are low. */
    private void sayTime(double seconds, String more) {
        say("", more, "0 to " + LevelText.signed(seconds, seconds < 1 ? 2 : 1, false) + " s, 0 to \u221260 dB");
        top.relocate(WIDTH - TIME_LABEL, 2);
        right.relocate(WIDTH - TIME_LABEL, 18);
    }

    /** From the middle: where the left side comes out (full) and where the right (dashed); upwards in phase. */
    private void sides(Processor tool) {
        double[][] gains = StereoTool.gains(tool);
        double reach = 1;
        for (int from = 0; from < 2; from++) {
            reach = Math.max(reach, Math.abs(gains[0][from]) + Math.abs(gains[1][from]));
        }
        spoke(line, gains[0][0], gains[1][0], reach);
        spoke(bands[1], gains[0][1], gains[1][1], reach);
        even.getPoints().addAll(WIDTH / 2, 0.0, WIDTH / 2, HEIGHT);
        zero.resizeRelocate(0, HEIGHT / 2, WIDTH, 1);
        say("to the left", "to the right", "full: left side, dashed: right");
        right.relocate(WIDTH - 74, HEIGHT - 18);
    }

    /** @param reach the largest sum of both gains that fits */
    private static void spoke(Polyline drawn, double toLeft, double toRight, double reach) {
        double scale = 0.96 * HEIGHT / 2 / reach;
        drawn.getPoints()
                .addAll(
                        WIDTH / 2,
                        HEIGHT / 2,
                        WIDTH / 2 + scale * (toRight - toLeft),
                        HEIGHT / 2 - scale * (toRight + toLeft));
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
        left.relocate(4, HEIGHT - 18);
        right.relocate(WIDTH - 56, HEIGHT - 18);
        top.relocate(4, 2);
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
