package waterwheel.desktop.outboard;

import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.function.DoubleUnaryOperator;
import javafx.scene.AccessibleRole;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.layout.Pane;
import javafx.scene.shape.Line;
import javafx.scene.shape.Polyline;
import org.jspecify.annotations.Nullable;
import waterwheel.core.outboard.LoopAnswer;
import waterwheel.core.units.LevelText;

/** What came back of one sample, and the gain by frequency, side by side. */
final class LoopPicture extends Pane {
    private static final double LOW_HZ = 20;
    private static final double HIGH_HZ = 20_000;
    /** From the lowest gain drawn to the highest, around the one in the middle of the range. */
    private static final double SPAN_DB = 36;

    private static final double HEIGHT = 126;
    private static final double FOOT = 16;
    private static final double GUTTER = 44;
    private static final double GAP = 14;
    private static final int IMPULSE_FRAMES = 160;

    private LoopAnswer.@Nullable Timed shown;

    LoopPicture() {
        getStyleClass().addAll("curve-picture", "loop-picture");
        setAccessibleRole(AccessibleRole.IMAGE_VIEW);
        setMinSize(240, HEIGHT);
        setPrefHeight(HEIGHT);
        setMaxHeight(HEIGHT);
        widthProperty().subscribe(width -> draw());
    }

    /** Shows an answer; null where the loop was not timed since the session was opened. */
    void show(LoopAnswer.@Nullable Timed answer) {
        if (Objects.equals(answer, shown) && !getChildren().isEmpty()) {
            return;
        }
        shown = answer;
        setAccessibleText(
                answer == null
                        ? "No picture: the loop was not timed since the session was opened"
                        : "Impulse after " + LevelText.signed(answer.timing().latencyFrames(), 2, false)
                                + " samples, and the gain by frequency");
        draw();
    }

    private void draw() {
        LoopAnswer.Timed answer = shown;
        List<Node> drawn = new ArrayList<>();
        if (answer == null) {
            drawn.add(text("Time the loop to see what it does to a signal.", 10, HEIGHT / 2 - 9));
        } else {
            double half = Math.floor(getWidth() * 0.42);
            impulse(drawn, answer, half);
            response(drawn, answer, half + GAP + GUTTER, Math.max(0, getWidth() - half - GAP - GUTTER - 8));
        }
        getChildren().setAll(drawn);
    }

    private static Label text(String words, double x, double y) {
        Label label = new Label(words);
        label.getStyleClass().add("curve-edge");
        label.setLayoutX(x);
        label.setLayoutY(y);
        return label;
    }

    private static Line line(double fromX, double fromY, double toX, double toY, String style) {
        Line line = new Line(fromX, fromY, toX, toY);
        line.getStyleClass().add(style);
        return line;
    }

    private static void impulse(List<Node> drawn, LoopAnswer.Timed answer, double width) {
        List<Double> impulse = answer.impulse();
        int count = Math.min(IMPULSE_FRAMES, impulse.size());
        double most = impulse.stream().mapToDouble(Math::abs).max().orElse(1);
        double middle = (HEIGHT - FOOT) / 2;
        double arrival = width * (answer.timing().latencyFrames() - answer.impulseFrom()) / count;
        drawn.add(line(0, middle, width, middle, "loop-grid"));
        drawn.add(line(arrival, 0, arrival, HEIGHT - FOOT, "loop-arrival"));
        Polyline curve = new Polyline();
        curve.getStyleClass().add("processor-curve");
        for (int i = 0; i < count; i++) {
            curve.getPoints().addAll(width * i / count, middle - impulse.get(i) / most * (middle - 4));
        }
        drawn.add(curve);
        drawn.add(text(
                "impulse, at " + LevelText.signed(answer.timing().latencyFrames(), 2, false) + " samples",
                4,
                HEIGHT - FOOT - 1));
    }

    private static void response(List<Node> drawn, LoopAnswer.Timed answer, double left, double width) {
        double centre = answer.timing().gainDb();
        double bottom = HEIGHT - FOOT;
        DoubleUnaryOperator y = db -> bottom / 2 - (db - centre) / SPAN_DB * bottom;
        for (double db = -12; db <= 12; db += 12) {
            drawn.add(
                    line(left, y.applyAsDouble(centre + db), left + width, y.applyAsDouble(centre + db), "loop-grid"));
            drawn.add(text(
                    LevelText.signed(centre + db, 0, true) + " dB", left - GUTTER, y.applyAsDouble(centre + db) - 9));
        }
        for (double hertz : new double[] {100, 1_000, 10_000}) {
            double x = x(hertz, left, width);
            drawn.add(line(x, 0, x, bottom, "loop-grid"));
            drawn.add(text(
                    hertz < 1_000 ? "100 Hz" : Math.round(hertz / 1_000) + " kHz",
                    Math.min(x - 16, left + width - 40),
                    bottom - 1));
        }
        Polyline curve = new Polyline();
        curve.getStyleClass().add("processor-curve");
        for (LoopAnswer.Gain gain : answer.response()) {
            curve.getPoints().addAll(x(gain.hertz(), left, width), Math.clamp(y.applyAsDouble(gain.db()), 0, bottom));
        }
        drawn.add(curve);
    }

    private static double x(double hertz, double left, double width) {
        return left + width * Math.log(hertz / LOW_HZ) / Math.log(HIGH_HZ / LOW_HZ);
    }
}
