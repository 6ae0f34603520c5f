package waterwheel.desktop.rides;

import java.util.ArrayList;
import java.util.List;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseEvent;
import javafx.scene.input.ScrollEvent;
import org.jspecify.annotations.Nullable;
import waterwheel.core.edit.Edit;
import waterwheel.core.edit.RideEdits;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.CurveRange;
import waterwheel.core.rides.Ride;
import waterwheel.core.rides.Scale;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.desktop.controls.Hint;

/**
 * A lane under the hand. Double-click adds a point, dragging moves one, dragging beside one chooses a
 * stretch of the song or, while drawing is on, writes a curve. Keys: Left and Right move the chosen point in time (Shift
 * further), Up and Down its value, Ctrl with Left and Right chooses another one, Insert adds one at the playhead, H, L and
 * C make what follows it hold, run as a line or as a curve, Delete takes it away, R chooses the section around it.
 */
final class LanePicture extends LaneDrawing {
    private static final double NEAR_PIXELS = 7;
    private static final double SHORTEST_DRAG = 4;
    private static final double WHEEL_ZOOM = 1.3;

    private static int gestures;

    private final List<CurvePoint> pass = new ArrayList<>();
    private Grip grip = Grip.NONE;
    private double pressedX;
    private String gesture = "";

    /** What the mouse holds. */
    private enum Grip {
        NONE,
        POINT,
        RANGE,
        HAND
    }

    LanePicture(RidesModel model, ControlId id) {
        super(model, id);
        Hint.on(
                this,
                "Double-click adds a point, drag moves it; drag beside it chooses a stretch, or draws while"
                        + " Draw is on. Keys: arrows move the chosen point, Ctrl+arrows choose another, Insert"
                        + " adds one at the playhead, H hold, L line, C curve, Delete takes it away, R chooses the"
                        + " section around it");
        setOnMousePressed(this::press);
        setOnMouseDragged(this::drag);
        setOnMouseReleased(this::release);
        setOnScroll(this::wheel);
        setOnKeyPressed(this::key);
    }

    // Mouse

    private @Nullable CurvePoint pointAt(Ride ride, double x, double y) {
        return ride.curve().points().stream()
                .filter(p -> Math.abs(x(p.frame()) - x) <= NEAR_PIXELS && Math.abs(y(p.value()) - y) <= NEAR_PIXELS)
                .findFirst()
                .orElse(null);
    }

    private void press(MouseEvent event) {
        requestFocus();
        event.consume();
        Ride ride = ride();
        if (ride == null || !event.isPrimaryButtonDown()) {
            return;
        }
        gesture = "ride drag " + ++gestures;
        pressedX = event.getX();
        CurvePoint near = pointAt(ride, event.getX(), event.getY());
        if (near != null) {
            grip = Grip.POINT;
            chosen = near.frame();
        } else if (model.drawingProperty().get()) {
            grip = Grip.HAND;
            pass.clear();
            drawn.getPoints().clear();
            hand(event);
        } else if (event.getClickCount() == 2) {
            CurvePoint added = new CurvePoint(snapped(event.getX()), value(event.getY()), usualShape());
            edit(RideEdits.point(session(), id, added));
            grip = Grip.POINT;
            chosen = added.frame();
        } else {
            grip = Grip.RANGE;
        }
        requestLayout();
    }

    private CurvePoint.Shape usualShape() {
        return control().scale() == Scale.SWITCH ? CurvePoint.Shape.HOLD : CurvePoint.Shape.LINE;
    }

    private void drag(MouseEvent event) {
        Ride ride = ride();
        event.consume();
        if (ride == null) {
            return;
        }
        switch (grip) {
            case POINT -> {
                CurvePoint point = chosenPoint(ride);
                if (point != null) {
                    long to = event.isShiftDown() ? point.frame() : snapped(event.getX());
                    move(new CurvePoint(Math.max(0, to), value(event.getY()), point.shape()));
                }
            }
            case HAND -> hand(event);
            case RANGE -> {
                if (Math.abs(event.getX() - pressedX) > SHORTEST_DRAG) {
                    long one = snapped(pressedX);
                    long other = snapped(event.getX());
                    if (one != other) {
                        model.rangeProperty().set(new CurveRange(Math.min(one, other), Math.max(one, other)));
                    }
                }
            }
            case NONE -> {}
        }
    }

    private long snapped(double x) {
        return model.snapped(
                frame(x),
                Math.round(NEAR_PIXELS / Math.max(1, getWidth()) * model.span().length()));
    }

    /** A place on the way of the hand; going back over it writes it anew. */
    private void hand(MouseEvent event) {
        long frame = snapped(event.getX());
        pass.removeIf(point -> point.frame() == frame);
        pass.add(new CurvePoint(frame, value(event.getY()), usualShape()));
        drawn.getPoints().addAll(event.getX(), event.getY());
    }

    private void release(MouseEvent event) {
        if (grip == Grip.RANGE && Math.abs(event.getX() - pressedX) <= SHORTEST_DRAG) {
            // A click beside a point chooses nothing, and goes there.
            model.rangeProperty().set(null);
            chosen = null;
            model.session()
                    .transport()
                    .seek((double) frame(event.getX()) / session().sampleRateHz());
            requestLayout();
        }
        if (grip == Grip.HAND) {
            drawn.getPoints().clear();
            List<CurvePoint> all = new ArrayList<>(pass);
            all.sort((a, b) -> Long.compare(a.frame(), b.frame()));
            if (all.size() > 1) {
                model.session().edit(RideEdits.write(session(), id, all));
            }
            pass.clear();
        }
        grip = Grip.NONE;
        gesture = "";
        event.consume();
    }

    private void wheel(ScrollEvent event) {
        double delta = event.getDeltaY() == 0 ? event.getDeltaX() : event.getDeltaY();
        if (delta == 0 || !(event.isShortcutDown() || event.isShiftDown())) {
            // The wheel alone scrolls the lanes.
            return;
        }
        if (event.isShiftDown()) {
            model.scroll(delta > 0 ? -0.1 : 0.1);
        } else {
            model.zoom(delta > 0 ? WHEEL_ZOOM : 1 / WHEEL_ZOOM, frame(event.getX()));
        }
        event.consume();
    }

    // Edits

    private void edit(Edit edit) {
        model.session().edit(edit, gesture);
    }

    /** Moves the chosen point; where it stops at a neighbour, it stays chosen there. */
    private void move(CurvePoint to) {
        Ride before = ride();
        Long at = chosen;
        if (before == null || at == null) {
            return;
        }
        int place = place(before, at);
        edit(RideEdits.movePoint(session(), id, at, to));
        Ride after = ride();
        if (after != null && place < after.curve().points().size()) {
            chosen = after.curve().points().get(place).frame();
        }
    }

    private static int place(Ride ride, long frame) {
        return (int)
                ride.curve().points().stream().filter(p -> p.frame() < frame).count();
    }

    private void key(KeyEvent event) {
        Ride ride = ride();
        if (ride == null || event.isAltDown()) {
            return;
        }
        CurvePoint point = chosenPoint(ride);
        gesture = "";
        boolean far = event.isShiftDown();
        boolean taken = true;
        switch (event.getCode()) {
            case LEFT, RIGHT -> {
                int way = event.getCode() == KeyCode.RIGHT ? 1 : -1;
                if (event.isShortcutDown()) {
                    choose(ride, way);
                } else if (point != null) {
                    long by = way
                            * Math.max(
                                    1, Math.round((far ? 0.1 : 0.01) * session().sampleRateHz()));
                    move(new CurvePoint(Math.max(0, point.frame() + by), point.value(), point.shape()));
                }
            }
            case UP, DOWN -> {
                int way = event.getCode() == KeyCode.UP ? 1 : -1;
                taken = point != null && !event.isShortcutDown();
                if (point != null && taken) {
                    move(new CurvePoint(point.frame(), scale().stepped(point.value(), way, far), point.shape()));
                }
            }
            case INSERT -> {
                long at = model.playhead();
                edit(RideEdits.point(
                        session(), id, new CurvePoint(at, Controls.reading(session(), id, at), usualShape())));
                chosen = at;
            }
            case DELETE, BACK_SPACE -> {
                if (point != null) {
                    edit(RideEdits.removePoints(session(), id, List.of(point.frame())));
                    chosen = null;
                }
            }
            case R -> model.chooseSectionAt(point == null ? model.playhead() : point.frame());
            case H -> shape(point, CurvePoint.Shape.HOLD);
            case L -> shape(point, CurvePoint.Shape.LINE);
            case C -> shape(point, CurvePoint.Shape.SMOOTH);
            case PLUS, ADD, EQUALS -> model.zoom(2, model.playhead());
            case MINUS, SUBTRACT -> model.zoom(0.5, model.playhead());
            case PAGE_UP -> model.scroll(-0.5);
            case PAGE_DOWN -> model.scroll(0.5);
            case HOME -> model.showAll();
            default -> taken = false;
        }
        if (taken && !(event.isShortcutDown() && event.getCode().isLetterKey())) {
            event.consume();
            requestLayout();
        }
    }

    private void shape(@Nullable CurvePoint point, CurvePoint.Shape shape) {
        if (point != null) {
            edit(RideEdits.point(session(), id, new CurvePoint(point.frame(), point.value(), shape)));
        }
    }

    /** Chooses the next point or the one before; the first one where none is chosen. */
    private void choose(Ride ride, int way) {
        List<CurvePoint> all = ride.curve().points();
        Long at = chosen;
        int place = at == null ? 0 : Math.clamp((long) place(ride, at) + way, 0, all.size() - 1);
        chosen = all.get(place).frame();
    }
}
