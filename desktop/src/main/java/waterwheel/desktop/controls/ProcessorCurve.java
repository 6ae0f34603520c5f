package waterwheel.desktop.controls;

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
import waterwheel.core.processing.Picture;
import waterwheel.core.processing.Processors;
import waterwheel.core.processing.TimeCurve;
import waterwheel.core.units.LevelText;

/**
 * What a processor does: an equaliser by frequency, what answers to level by level, echoes and reverbs over time, a
 * stereo tool from each side to both; nothing for test signals.
 */
public final class ProcessorCurve extends Pane {
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

    public ProcessorCurve() {
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

    /**
     * Draws a processor's curve.
     *
     * @param response the facts of the file that a convolution works with; null where there are none
     */
    public void show(@Nullable Processor processor, int sampleRateHz, @Nullable FileFacts response) {
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
        boolean drawn = false;
        if (processor != null) {
            Picture picture = Processors.of(processor.kind()).picture(processor, sampleRateHz);
            drawn = draw(picture, response);
        }
        setVisible(drawn);
        setManaged(drawn);
        setAccessibleText(
                processor == null ? "" : "Curve of the " + processor.kind().label());
    }

    /** Returns whether there was anything to draw. */
    private boolean draw(Picture picture, @Nullable FileFacts response) {
        switch (picture) {
            case Picture.None() -> {
                return false;
            }
            case Picture.ByFrequency(DoubleUnaryOperator gainDb) -> {
                draw(line, x -> y(gainDb.applyAsDouble(hertz(x)), -EDGE_DB, EDGE_DB));
                zero.resizeRelocate(0, HEIGHT / 2, WIDTH, 1);
                say("20 Hz", "20 kHz", "+24 dB");
            }
            case Picture.ByLevel byLevel -> byLevel(byLevel);
            case Picture.Echoes echoes -> echoes(echoes);
            case Picture.Tail tail -> tail(tail);
            case Picture.OfResponse(double afterSeconds) -> {
                if (response == null) {
                    return false;
                }
                response(afterSeconds, response);
                return !response.silent();
            }
            case Picture.Sides sides -> sides(sides);
            case Picture.OverBurst burst -> overBurst(burst);
        }
        return true;
    }

    private void echoes(Picture.Echoes delay) {
        double length = 1.1 * delay.lastingSeconds();
        line.getPoints().addAll(0.0, HEIGHT);
        for (TimeCurve.Echo echo : delay.echoes()) {
            double x = WIDTH * echo.seconds() / length;
            line.getPoints().addAll(x, HEIGHT, x, y(echo.db(), TimeCurve.GONE_DB, 0), x, HEIGHT);
        }
        sayTime(length, "each echo");
    }

    private void tail(Picture.Tail tail) {
        double length = 1.1 * tail.lastingSeconds();
        draw(line, x -> y(tail.lowDb().applyAsDouble(x / WIDTH * length), TimeCurve.GONE_DB, 0));
        draw(bands[1], x -> y(tail.highDb().applyAsDouble(x / WIDTH * length), TimeCurve.GONE_DB, 0));
        sayTime(length, "dashed: at " + LevelText.signed(tail.highHz() / 1_000, 1, false) + " kHz");
    }

    /** The gain from 0 upwards and downwards, and a mark where the sound ends. */
    private void overBurst(Picture.OverBurst burst) {
        draw(line, x -> y(burst.gainDb().applyAsDouble(x / WIDTH * burst.seconds()), -burst.edgeDb(), burst.edgeDb()));
        double end = WIDTH * burst.endsSeconds() / burst.seconds();
        even.getPoints().addAll(end, 0.0, end, HEIGHT);
        zero.resizeRelocate(0, HEIGHT / 2, WIDTH, 1);
        say(
                "sound begins",
                LevelText.signed(burst.seconds(), 1, false) + " s",
                "\u00b1" + LevelText.signed(burst.edgeDb(), 0, false) + " dB; the upright line: it ends");
    }

    private void response(double late, FileFacts facts) {
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
    private void sides(Picture.Sides sides) {
        double reach = Math.max(
                1,
                Math.max(
                        Math.abs(sides.leftToLeft()) + Math.abs(sides.rightToLeft()),
                        Math.abs(sides.leftToRight()) + Math.abs(sides.rightToRight())));
        spoke(line, sides.leftToLeft(), sides.leftToRight(), reach);
        spoke(bands[1], sides.rightToLeft(), sides.rightToRight(), reach);
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

    private void byLevel(Picture.ByLevel picture) {
        List<DoubleUnaryOperator> curves = picture.outputDb();
        for (int i = 0; i < curves.size(); i++) {
            DoubleUnaryOperator curve = curves.get(i);
            draw(curves.size() == 1 ? line : bands[i], x -> y(curve.applyAsDouble(level(x)), LOWEST_DBFS, 0));
        }
        sayLevels();
        if (curves.size() == 1) {
            even.getPoints().addAll(0.0, HEIGHT, WIDTH, 0.0);
        } else {
            top.setText(picture.legend());
        }
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
