package waterwheel.desktop.clips;

import java.util.List;
import javafx.scene.AccessibleRole;
import javafx.scene.control.Label;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseEvent;
import javafx.scene.input.ScrollEvent;
import javafx.scene.layout.Pane;
import javafx.scene.layout.Region;
import javafx.scene.shape.Polyline;
import org.jspecify.annotations.Nullable;
import waterwheel.core.edit.ClipEdits;
import waterwheel.core.filefacts.FileFacts;
import waterwheel.core.filefacts.FlattenedRun;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.session.Clip;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.clips.ClipsModel.View;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.Waveform;

/**
 * A clip as it sounds, with the chosen one of its curves over it: no change in the middle. Double-click adds a point to the
 * curve, dragging moves one, the corners at the top drag the fades, the wheel zooms. Keys: Left and Right move the cursor
 * (Shift further), Up and Down the curve there, Delete takes the nearest point away, plus and minus zoom, Page
 * Up and Down scroll, Home shows the whole clip.
 */
final class ClipPicture extends Pane {
    private static final double NEAR_PIXELS = 7;
    private static final double HANDLE = 8;
    private static final double POINTER_GAP = 8;
    /** About as many as a usual screen draws, so that a figure does not depend on the window. */
    private static final int COLUMNS = 800;

    private static final double WHEEL_ZOOM = 1.3;
    private static final int MOST_MARKS = 400;

    private static int drags;

    private final ClipsModel model;
    private final Waveform waveform = new Waveform();
    private final WaveScale scale = new WaveScale();
    private final Label pointer = new Label();
    private final Region zero = region("curve-zero");
    private final Polyline curve = line("gain-curve");
    private final Polyline ghost = line("gain-ghost");
    private final Pane points = layer();
    private final Pane lost = layer();
    private final Region cursor = region("cursor");
    private final Region fadeIn = region("fade-handle");
    private final Region fadeOut = region("fade-handle");
    private final Label upperEdge = edge();
    private final Label lowerEdge = edge();
    private Grip grip = Grip.NONE;
    private long gripFrame;
    private String gesture = "";

    /** What the mouse holds. */
    private enum Grip {
        NONE,
        POINT,
        FADE_IN,
        FADE_OUT
    }

    ClipPicture(ClipsModel model) {
        this.model = model;
        getStyleClass().add("clip-picture");
        setFocusTraversable(true);
        setAccessibleRole(AccessibleRole.SLIDER);
        setMinSize(0, 110);
        setPrefHeight(140);
        fadeIn.setMouseTransparent(true);
        fadeOut.setMouseTransparent(true);
        getChildren()
                .addAll(
                        waveform, scale, lost, zero, upperEdge, lowerEdge, ghost, curve, points, fadeIn, fadeOut,
                        cursor, pointer);
        getChildren().forEach(child -> {
            child.setManaged(false);
            child.setMouseTransparent(true);
        });
        Hint.on(
                this,
                "The clip as it sounds. Double-click adds a point of the curve, drag moves it, the upper"
                        + " corners drag the fades, the wheel zooms down to the samples. Arrow keys move the"
                        + " cursor and the curve there, Delete takes a point away");
        setOnMousePressed(this::press);
        setOnMouseDragged(this::drag);
        setOnMouseReleased(event -> grip = Grip.NONE);
        setOnScroll(this::wheel);
        pointer.getStyleClass().addAll("figure", "wave-pointer");
        setOnMouseMoved(event -> showPointer(event.getX(), event.getY()));
        setOnMouseExited(event -> pointer.setText(""));
        setOnKeyPressed(this::key);
        model.viewProperty().subscribe(view -> requestLayout());
        model.detailProperty().subscribe(detail -> requestLayout());
        model.ghostProperty().subscribe(curve -> requestLayout());
        model.curveProperty().subscribe(kind -> requestLayout());
        model.session().keep(model.session().levelsProperty().subscribe(levels -> requestLayout()));
    }

    private static Region region(String styleClass) {
        Region region = new Region();
        region.getStyleClass().add(styleClass);
        return region;
    }

    private static Polyline line(String styleClass) {
        Polyline line = new Polyline();
        line.getStyleClass().add(styleClass);
        return line;
    }

    private static Pane layer() {
        Pane pane = new Pane();
        pane.setMouseTransparent(true);
        return pane;
    }

    private static Label edge() {
        Label label = new Label();
        label.getStyleClass().add("curve-edge");
        return label;
    }

    // Places

    private double x(View view, long frame) {
        return (double) (frame - view.from()) / view.length() * getWidth();
    }

    private long frame(View view, double x) {
        long frame = view.from() + Math.round(x / Math.max(1, getWidth()) * view.length());
        return Math.clamp(frame, 0, view.clip().lengthFrames() - 1);
    }

    private double y(double value) {
        double edge = kind().edge();
        return getHeight() / 2 * (1 - Math.clamp(value, -edge, edge) / edge);
    }

    private double value(double y) {
        return kind().stepped((1 - y / (getHeight() / 2)) * kind().edge());
    }

    private ClipCurve kind() {
        return model.curveProperty().get();
    }

    private Curve drawn(View view) {
        return kind().in(view.clip());
    }

    // Drawing

    @Override
    protected void layoutChildren() {
        double width = getWidth();
        double height = getHeight();
        waveform.resizeRelocate(0, 0, width, height);
        scale.resizeRelocate(0, 0, width, height);
        zero.resizeRelocate(0, snapPositionY(height / 2), width, 1);
        upperEdge.resizeRelocate(width - 46, 2, 44, 14);
        lowerEdge.resizeRelocate(width - 46, height - 16, 44, 14);
        View view = model.viewProperty().get();
        getChildren().forEach(child -> child.setVisible(view != null));
        if (view == null) {
            return;
        }
        upperEdge.setText(kind().edgeText(true));
        lowerEdge.setText(kind().edgeText(false));
        drawWave(view);
        drawLost(view);
        drawCurve(view, curve, drawn(view));
        Curve proposed = model.ghostProperty().get();
        drawCurve(view, ghost, proposed == null || !kind().equals(ClipCurve.GAIN) ? Curve.NONE : proposed);
        drawPoints(view);
        Clip clip = view.clip();
        place(fadeIn, x(view, clip.fadeInFrames()), HANDLE / 2);
        place(fadeOut, x(view, clip.lengthFrames() - clip.fadeOutFrames()), HANDLE / 2);
        cursor.resizeRelocate(snapPositionX(x(view, view.cursor())), 0, 1, height);
        setAccessibleText(
                "Clip " + (view.index() + 1) + " of " + view.track().name() + ", cursor at "
                        + LevelText.time((double) view.cursor()
                                / model.session().session().sampleRateHz()) + ", curve of " + kind().name() + " "
                        + kind().text(drawn(view).at(view.cursor())));
    }

    /** The level of the height at which the pointer is, beside it. */
    private void showPointer(double x, double y) {
        pointer.setText(LevelText.level(scale.dbfsAt(y), "dBFS"));
        double wide = pointer.prefWidth(-1);
        double left = x + wide + POINTER_GAP > getWidth() ? x - wide - POINTER_GAP : x + POINTER_GAP;
        pointer.resizeRelocate(left, Math.clamp(y - 18, 0, Math.max(0, getHeight() - 16)), wide, 16);
    }

    private void place(Region handle, double x, double y) {
        handle.setVisible(x >= -HANDLE && x <= getWidth() + HANDLE);
        handle.resizeRelocate(x - HANDLE / 2, y - HANDLE / 2, HANDLE, HANDLE);
    }

    private void drawWave(View view) {
        ClipWave.of(model, view).draw(waveform);
        scale.show(model.session().session(), view.track());
    }

    /** The largest sample that is drawn at the cursor, dBFS; NaN while it is not known. */
    double peakAtCursor(View view) {
        return ClipWave.of(model, view).peakDbfs(view.cursor(), (double) view.length() / COLUMNS);
    }

    private void drawLost(View view) {
        lost.getChildren().clear();
        Clip clip = view.clip();
        double last = Double.NEGATIVE_INFINITY;
        for (FlattenedRun run : runs(view)) {
            double x = x(view, run.firstFrame() - clip.offsetFrames());
            double end = x(view, run.firstFrame() + run.frames() - clip.offsetFrames());
            if (end < 0 || x > getWidth() || x < last + 1 || lost.getChildren().size() >= MOST_MARKS) {
                continue;
            }
            Region mark = region("lost-mark");
            mark.resizeRelocate(x, 0, Math.max(2, end - x), 5);
            lost.getChildren().add(mark);
            last = x;
        }
    }

    /** Flattened runs of the clip's file, as far as they are listed. */
    List<FlattenedRun> runs(View view) {
        FileFacts facts = model.session().levels().files().get(view.clip().source());
        return facts == null ? List.of() : facts.runs();
    }

    private void drawCurve(View view, Polyline line, Curve shown) {
        line.getPoints().clear();
        if (shown.isNone()) {
            return;
        }
        for (double x = 0; x <= getWidth(); x += 2) {
            line.getPoints().addAll(x, y(shown.at(frame(view, x))));
        }
    }

    private void drawPoints(View view) {
        points.getChildren().clear();
        for (CurvePoint point : drawn(view).points()) {
            double x = x(view, point.frame());
            if (x >= -HANDLE && x <= getWidth() + HANDLE && points.getChildren().size() < MOST_MARKS) {
                Region handle = region("curve-point");
                handle.resizeRelocate(x - HANDLE / 2, y(point.value()) - HANDLE / 2, HANDLE, HANDLE);
                points.getChildren().add(handle);
            }
        }
    }

    // Mouse

    private void press(MouseEvent event) {
        requestFocus();
        event.consume();
        View view = model.viewProperty().get();
        if (view == null) {
            return;
        }
        gesture = "clip drag " + ++drags;
        Clip clip = view.clip();
        CurvePoint near = pointAt(view, event.getX(), event.getY());
        if (near != null) {
            grip = Grip.POINT;
            gripFrame = near.frame();
        } else if (event.getY() < HANDLE + 4 && isNear(x(view, clip.fadeInFrames()), event.getX())) {
            grip = Grip.FADE_IN;
        } else if (event.getY() < HANDLE + 4
                && isNear(x(view, clip.lengthFrames() - clip.fadeOutFrames()), event.getX())) {
            grip = Grip.FADE_OUT;
        } else if (event.getClickCount() == 2) {
            CurvePoint added = new CurvePoint(frame(view, event.getX()), value(event.getY()), CurvePoint.Shape.LINE);
            change(view, drawn(view).with(added));
            grip = Grip.POINT;
            gripFrame = added.frame();
        }
        model.moveCursor(frame(view, event.getX()));
    }

    private static boolean isNear(double one, double other) {
        return Math.abs(one - other) <= NEAR_PIXELS;
    }

    private @Nullable CurvePoint pointAt(View view, double x, double y) {
        return drawn(view).points().stream()
                .filter(p -> isNear(x(view, p.frame()), x) && isNear(y(p.value()), y))
                .findFirst()
                .orElse(null);
    }

    private void drag(MouseEvent event) {
        View view = model.viewProperty().get();
        if (view == null) {
            return;
        }
        Clip clip = view.clip();
        long frame = frame(view, event.getX());
        switch (grip) {
            case POINT -> movePoint(view, frame, value(event.getY()));
            case FADE_IN -> model.edit(ClipEdits.fadeIn(view.track(), view.index(), frame), gesture);
            case FADE_OUT ->
                model.edit(ClipEdits.fadeOut(view.track(), view.index(), clip.lengthFrames() - frame), gesture);
            case NONE -> model.moveCursor(frame);
        }
        event.consume();
    }

    /** Between its neighbours, which it cannot pass. */
    private void movePoint(View view, long frame, double value) {
        Curve before = drawn(view);
        long least = 0;
        long most = view.clip().lengthFrames() - 1;
        CurvePoint.Shape shape = CurvePoint.Shape.LINE;
        for (CurvePoint point : before.points()) {
            if (point.frame() < gripFrame) {
                least = point.frame() + 1;
            } else if (point.frame() > gripFrame) {
                most = Math.min(most, point.frame() - 1);
            } else {
                shape = point.shape();
            }
        }
        long to = Math.clamp(frame, least, Math.max(least, most));
        change(view, before.without(gripFrame).with(new CurvePoint(to, value, shape)));
        gripFrame = to;
    }

    private void change(View view, Curve curve) {
        model.edit(kind().edit(view.track(), view.index(), curve), gesture);
    }

    private void wheel(ScrollEvent event) {
        View view = model.viewProperty().get();
        double delta = event.getDeltaY() == 0 ? event.getDeltaX() : event.getDeltaY();
        if (view == null || delta == 0) {
            return;
        }
        if (event.isShiftDown()) {
            model.scroll(delta > 0 ? -0.1 : 0.1);
        } else {
            model.zoom(delta > 0 ? WHEEL_ZOOM : 1 / WHEEL_ZOOM, frame(view, event.getX()));
        }
        event.consume();
    }

    // Keys

    private void key(KeyEvent event) {
        View view = model.viewProperty().get();
        if (view == null || event.isShortcutDown() || event.isAltDown()) {
            return;
        }
        long step = Math.max(1, view.length() / (event.isShiftDown() ? 10 : 100));
        switch (event.getCode()) {
            case LEFT -> model.moveCursor(view.cursor() - step);
            case RIGHT -> model.moveCursor(view.cursor() + step);
            case UP -> raise(view, kind().keyStep());
            case DOWN -> raise(view, -kind().keyStep());
            case DELETE, BACK_SPACE -> deleteNearest(view);
            case PLUS, ADD, EQUALS -> model.zoom(2, view.cursor());
            case MINUS, SUBTRACT -> model.zoom(0.5, view.cursor());
            case PAGE_UP -> model.scroll(-0.5);
            case PAGE_DOWN -> model.scroll(0.5);
            case HOME -> model.zoomOut();
            default -> {
                return;
            }
        }
        event.consume();
    }

    /** Moves the curve at the cursor: the point near it, or a new one. */
    private void raise(View view, double by) {
        gesture = "";
        CurvePoint near = nearest(view);
        Curve before = drawn(view);
        CurvePoint from =
                near == null ? new CurvePoint(view.cursor(), before.at(view.cursor()), CurvePoint.Shape.LINE) : near;
        double value = kind().stepped(from.value() + by);
        change(view, before.with(new CurvePoint(from.frame(), value, from.shape())));
    }

    private void deleteNearest(View view) {
        gesture = "";
        CurvePoint near = nearest(view);
        if (near != null) {
            change(view, drawn(view).without(near.frame()));
        }
    }

    private @Nullable CurvePoint nearest(View view) {
        return drawn(view).points().stream()
                .filter(p -> isNear(x(view, p.frame()), x(view, view.cursor())))
                .min((a, b) -> Long.compare(Math.abs(a.frame() - view.cursor()), Math.abs(b.frame() - view.cursor())))
                .orElse(null);
    }
}
