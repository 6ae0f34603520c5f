package waterwheel.desktop.rides;

import java.util.ArrayList;
import java.util.List;
import java.util.function.LongToDoubleFunction;
import javafx.css.PseudoClass;
import javafx.scene.AccessibleRole;
import javafx.scene.CacheHint;
import javafx.scene.Group;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.layout.Pane;
import javafx.scene.layout.Region;
import javafx.scene.shape.ClosePath;
import javafx.scene.shape.HLineTo;
import javafx.scene.shape.MoveTo;
import javafx.scene.shape.Path;
import javafx.scene.shape.PathElement;
import javafx.scene.shape.Polygon;
import javafx.scene.shape.Polyline;
import javafx.scene.shape.VLineTo;
import org.jspecify.annotations.Nullable;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.metering.Steps;
import waterwheel.core.rides.Control;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.CurveRange;
import waterwheel.core.rides.Ride;
import waterwheel.core.rides.Scale;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.core.session.Session;
import waterwheel.core.units.Decibels;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.rides.RidesModel.Proposed;

/**
 * What a lane shows: the level that its control causes, what is written, what that comes to with all that lies on top,
 * what is proposed, the points, and the chosen stretch.
 */
class LaneDrawing extends Pane {
    static final double HANDLE = 8;
    private static final double LOWEST_DB = -60;
    private static final double COLUMN = 2;
    /** Nearer to each other than this, points are not drawn one by one. */
    private static final double CROWDED_PIXELS = 5;
    /** Where a line turns more often than this, smoothing takes long and is not seen. */
    private static final double CROWDED_LINE_PIXELS = 8;

    private static final PseudoClass CHOSEN = PseudoClass.getPseudoClass("chosen");
    private static final PseudoClass SUSPENDED = PseudoClass.getPseudoClass("suspended");

    final RidesModel model;
    final ControlId id;
    /** The way of a hand that draws. */
    final Polyline drawn = line("ride-drawn");
    /** The frame of the point that is chosen; null for none. */
    @Nullable
    Long chosen;

    private final Polygon level = new Polygon();
    private final Polyline written = line("ride-written");
    private final Polyline result = line("ride-result");
    private final Polyline ghost = line("ride-ghost");
    /** All points as one shape, and the chosen one on top. */
    private final Path points = new Path();

    private final Region chosenPoint = new Region();
    private final Region range = new Region();
    private final Region playhead = new Region();
    private final Label upper = new Label();
    private final Label lower = new Label();

    LaneDrawing(RidesModel model, ControlId id) {
        this.model = model;
        this.id = id;
        getStyleClass().add("lane-picture");
        setFocusTraversable(true);
        setAccessibleRole(AccessibleRole.SLIDER);
        setMinSize(0, 40);
        level.getStyleClass().add("lane-level");
        // Upright edges need no smoothing, which takes most of the time.
        level.setSmooth(false);
        points.setSmooth(false);
        points.getStyleClass().add("ride-points");
        chosenPoint.getStyleClass().add("curve-point");
        chosenPoint.pseudoClassStateChanged(CHOSEN, true);
        range.getStyleClass().add("section-drag");
        playhead.getStyleClass().add("cursor");
        upper.getStyleClass().add("curve-edge");
        lower.getStyleClass().add("curve-edge");
        // Long lines are stroked when they change, and not for every picture of a scroll.
        Group lines = new Group(written, result, ghost, points);
        for (Node kept : List.of(level, lines)) {
            kept.setCache(true);
            kept.setCacheHint(CacheHint.SPEED);
        }
        getChildren().addAll(level, range, lines, drawn, chosenPoint, upper, lower, playhead);
        getChildren().forEach(child -> {
            child.setManaged(false);
            child.setMouseTransparent(true);
        });
    }

    private static Polyline line(String style) {
        Polyline line = new Polyline();
        line.getStyleClass().add(style);
        return line;
    }

    final Session session() {
        return model.session().session();
    }

    final Control control() {
        return Controls.control(session(), id);
    }

    final LaneScale scale() {
        return new LaneScale(control());
    }

    final @Nullable Ride ride() {
        return Controls.has(session(), id) ? Controls.ride(session(), id).orElse(null) : null;
    }

    final double x(long frame) {
        return model.span().place(frame) * getWidth();
    }

    final long frame(double x) {
        return frame(x, lastFrame());
    }

    private long frame(double x, long last) {
        return Math.clamp(model.span().frame(x / Math.max(1, getWidth())), 0, last);
    }

    private long lastFrame() {
        return Math.max(0, session().lengthFrames() - 1);
    }

    final double y(double value) {
        return y(scale(), value);
    }

    private double y(LaneScale scale, double value) {
        return HANDLE / 2 + (1 - scale.toPlace(value)) * (getHeight() - HANDLE);
    }

    final double value(double y) {
        return scale().toValue(1 - (y - HANDLE / 2) / Math.max(1, getHeight() - HANDLE));
    }

    @Override
    protected void layoutChildren() {
        boolean there = Controls.has(session(), id);
        getChildren().forEach(child -> child.setVisible(there));
        if (!there || getWidth() < 1) {
            return;
        }
        Ride present = ride();
        // One that is only proposed stands where it is set.
        Ride ride = present == null ? Controls.still(session(), id) : present;
        pseudoClassStateChanged(SUSPENDED, !ride.active());
        drawLevel();
        Control control = control();
        boolean crowded = ride.curve().points().stream()
                        .filter(point -> x(point.frame()) >= 0 && x(point.frame()) <= getWidth())
                        .count()
                > getWidth() / CROWDED_LINE_PIXELS;
        for (Polyline line : List.of(written, result, ghost)) {
            line.setSmooth(!crowded);
        }
        drawLine(written, frame -> control.limited(ride.curve().at(frame, control.scale())));
        boolean laid =
                ride.active() && !ride.equals(Controls.moving(session(), id).orElse(ride));
        boolean more = ride.offset() != 0 || !ride.offsetCurve().isNone() || laid || model.hasResult(id);
        result.setVisible(more && ride.active());
        if (result.isVisible()) {
            drawLine(result, whole(session()));
        }
        Proposed proposed = model.proposedProperty().get();
        ghost.setVisible(proposed != null && proposed.rides(id));
        if (proposed != null && ghost.isVisible()) {
            drawLine(ghost, whole(proposed.proposal().after()));
        }
        drawPoints(present);
        upper.setText(scale().upper());
        lower.setText(scale().lower());
        upper.resizeRelocate(getWidth() - 92, 1, 90, 13);
        lower.resizeRelocate(getWidth() - 92, getHeight() - 14, 90, 13);
        CurveRange stretch = model.rangeProperty().get();
        range.setVisible(stretch != null);
        if (stretch != null) {
            double from = Math.max(-1, x(stretch.from()));
            double to = Math.min(getWidth() + 1, x(stretch.to()));
            range.setVisible(to > from);
            range.resizeRelocate(from, 0, Math.max(1, to - from), getHeight());
        }
        placePlayhead();
        tell(ride);
    }

    /** The reading with what lies on top: offsets, clips, and of a fader the VCAs. */
    private LongToDoubleFunction whole(Session shown) {
        if (!model.hasResult(id)) {
            return Controls.line(shown, id);
        }
        LongToDoubleFunction result = Controls.resultLine(shown, id.owner(), model.above(shown));
        return frame -> Math.max(Control.SILENT_DB, result.applyAsDouble(frame));
    }

    private void drawLine(Polyline line, LongToDoubleFunction values) {
        boolean steps = control().scale() == Scale.SWITCH;
        LaneScale scale = scale();
        double before = Double.NaN;
        List<Double> places = new ArrayList<>();
        long last = lastFrame();
        for (double x = 0; x <= getWidth(); x += COLUMN) {
            double y = y(scale, values.applyAsDouble(frame(x, last)));
            if (steps && !Double.isNaN(before) && before != y) {
                places.add(x);
                places.add(before);
            }
            places.add(x);
            places.add(y);
            before = y;
        }
        line.getPoints().setAll(places);
    }

    private void drawLevel() {
        level.getPoints().clear();
        LevelSeries series = model.level(model.caused(id));
        if (series == null) {
            return;
        }
        drawLevel(level, series, model.span(), getWidth(), getHeight());
    }

    /** Fills a shape with the peak level over a stretch of the song, from -60 to 0 dBFS. */
    static void drawLevel(Polygon shape, LevelSeries series, TimeSpan span, double width, double height) {
        List<Double> places = new ArrayList<>(List.of(0.0, height));
        int rate = series.sampleRateHz();
        for (double x = 0; x < width; x += COLUMN) {
            int first = (int) (span.frame(x / width) * Steps.PER_SECOND / rate);
            int last = (int) Math.max(first + 1, span.frame((x + COLUMN) / width) * Steps.PER_SECOND / rate);
            double most = 0;
            for (int p = 0; p < series.planes(); p++) {
                for (int step = first; step < Math.min(last, series.steps()); step++) {
                    most = Math.max(most, series.peak(p, step));
                }
            }
            double part = Math.clamp(1 - Decibels.ofFactor(most) / LOWEST_DB, 0, 1);
            places.add(x);
            places.add(height * (1 - part));
        }
        places.addAll(List.of(width, height));
        shape.getPoints().setAll(places);
    }

    private void drawPoints(@Nullable Ride ride) {
        List<PathElement> squares = new ArrayList<>();
        CurvePoint taken = ride == null ? null : chosenPoint(ride);
        double last = Double.NEGATIVE_INFINITY;
        LaneScale scale = scale();
        for (CurvePoint point :
                ride == null ? List.<CurvePoint>of() : ride.curve().points()) {
            double x = x(point.frame());
            if (x >= -HANDLE && x <= getWidth() + HANDLE && x - last >= CROWDED_PIXELS) {
                addSquare(squares, Math.rint(x - HANDLE / 2), Math.rint(y(scale, point.value()) - HANDLE / 2));
                last = x;
            }
        }
        points.getElements().setAll(squares);
        chosenPoint.setVisible(taken != null);
        if (taken != null) {
            chosenPoint.resizeRelocate(
                    x(taken.frame()) - HANDLE / 2, y(scale, taken.value()) - HANDLE / 2, HANDLE, HANDLE);
        }
    }

    private static void addSquare(List<PathElement> path, double left, double top) {
        path.add(new MoveTo(left, top));
        path.add(new HLineTo(left + HANDLE));
        path.add(new VLineTo(top + HANDLE));
        path.add(new HLineTo(left));
        path.add(new ClosePath());
    }

    void placePlayhead() {
        double x = x(model.playhead());
        playhead.setVisible(x >= 0 && x <= getWidth());
        playhead.resizeRelocate(snapPositionX(x), 0, 1, getHeight());
    }

    private void tell(Ride ride) {
        CurvePoint point = chosenPoint(ride);
        String name = Controls.ownerName(session(), id) + ", " + Controls.name(session(), id);
        setAccessibleText(
                point == null
                        ? name + ", " + ride.curve().points().size() + " points"
                        : name + ", point at "
                                + LevelText.time(
                                        (double) point.frame() / session().sampleRateHz()) + ", "
                                + scale().text(point.value()) + ", then "
                                + point.shape().label());
    }

    final @Nullable CurvePoint chosenPoint(Ride ride) {
        Long at = chosen;
        return at == null
                ? null
                : ride.curve().points().stream()
                        .filter(p -> p.frame() == at)
                        .findFirst()
                        .orElse(null);
    }
}
