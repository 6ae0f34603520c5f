package waterwheel.desktop.flow;

import java.util.List;
import java.util.function.Consumer;
import java.util.function.Supplier;
import javafx.geometry.Point2D;
import javafx.scene.Cursor;
import javafx.scene.control.MenuItem;
import javafx.scene.input.MouseEvent;
import org.jspecify.annotations.Nullable;
import waterwheel.desktop.controls.SmallMenu;

/** A track in a proposed bus: dragged to another, or sent there from its list. */
final class PlannedTrack extends SmallMenu {
    /** Moved by less than this many pixels it is pressed and not dragged. */
    private static final double SLACK = 6;

    private @Nullable Point2D pressed;
    private boolean dragged;

    /**
     * @param places that the track can go to
     * @param over told where the track is while it is dragged, in the scene; null when it is let go
     * @param drop told where it was let go
     */
    PlannedTrack(
            String name, Supplier<List<MenuItem>> places, Consumer<@Nullable Point2D> over, Consumer<Point2D> drop) {
        super(name, name + ": drag it to another bus, or open the list");
        getStyleClass().add("planned-track");
        getItems().setAll(new MenuItem(name));
        setOnShowing(event -> getItems().setAll(places.get()));
        addEventFilter(MouseEvent.MOUSE_PRESSED, event -> {
            pressed = at(event);
            dragged = false;
            // The list opens when the button is let go, since a press may be the beginning of a drag.
            requestFocus();
            event.consume();
        });
        addEventFilter(MouseEvent.MOUSE_DRAGGED, event -> {
            Point2D from = pressed;
            if (from != null && (dragged || from.distance(at(event)) > SLACK)) {
                dragged = true;
                setCursor(Cursor.CLOSED_HAND);
                over.accept(at(event));
                event.consume();
            }
        });
        addEventFilter(MouseEvent.MOUSE_RELEASED, event -> {
            event.consume();
            setCursor(Cursor.DEFAULT);
            over.accept(null);
            if (dragged) {
                drop.accept(at(event));
            } else if (pressed != null) {
                show();
            }
            pressed = null;
        });
    }

    private static Point2D at(MouseEvent event) {
        return new Point2D(event.getSceneX(), event.getSceneY());
    }
}
