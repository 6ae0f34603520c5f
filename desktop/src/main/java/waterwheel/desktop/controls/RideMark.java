package waterwheel.desktop.controls;

import java.util.function.Supplier;
import javafx.css.PseudoClass;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.Control;
import javafx.scene.control.MenuItem;
import javafx.scene.control.ToggleButton;
import javafx.scene.input.ContextMenuEvent;
import javafx.scene.input.MouseEvent;
import org.jspecify.annotations.Nullable;
import waterwheel.core.edit.RideEdits;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.core.session.Session;
import waterwheel.desktop.model.SessionModel;

/**
 * What a control that can be ridden has: a context menu that gives it a curve, and a mark while it has one. While it is
 * ridden it shows what it reads at the playhead.
 */
public final class RideMark {
    private static final PseudoClass RIDDEN = PseudoClass.getPseudoClass("ridden");

    private final Control control;
    private final SessionModel model;
    private final Supplier<@Nullable ControlId> id;
    private final MenuItem ride = new MenuItem();
    private final String word;
    /** What it was when it was taken hold of. */
    private @Nullable ControlId held;

    private RideMark(Control control, String word, SessionModel model, Supplier<@Nullable ControlId> id) {
        this.control = control;
        this.word = word;
        this.model = model;
        this.id = id;
        ride.setOnAction(event -> choose());
    }

    /** Puts the mark on a control of the screen; {@code id} says what it controls now. */
    public static RideMark on(Control control, SessionModel model, Supplier<@Nullable ControlId> id) {
        return on(control, "this", model, id);
    }

    /**
     * Puts a mark on a control of the screen that is for several things.
     *
     * @param word for the one that this mark is of
     */
    public static RideMark on(
            Control control, String word, SessionModel model, Supplier<? extends @Nullable ControlId> id) {
        RideMark mark = new RideMark(control, word, model, id::get);
        // A menu is a window of its own, and rows with such controls come and go.
        control.addEventFilter(ContextMenuEvent.CONTEXT_MENU_REQUESTED, event -> mark.offer());
        control.addEventFilter(MouseEvent.MOUSE_PRESSED, event -> mark.held = id.get());
        control.addEventFilter(MouseEvent.MOUSE_RELEASED, event -> mark.release());
        return mark;
    }

    /** Has the control's menu name the ride and what choosing it does now. */
    private void offer() {
        ContextMenu menu = control.getContextMenu() == null ? new ContextMenu() : control.getContextMenu();
        if (!menu.getItems().contains(ride)) {
            menu.getItems().add(ride);
            control.setContextMenu(menu);
        }
        name();
    }

    private void release() {
        ControlId present = held == null ? id.get() : held;
        held = null;
        if (present != null) {
            model.hand().release(present);
        }
    }

    private void name() {
        ControlId present = id.get();
        ride.setDisable(present == null || !Controls.has(session(), present));
        ride.setText((ridden() ? "Stop riding " : "Ride ") + word);
    }

    private void choose() {
        ControlId present = id.get();
        if (present != null) {
            model.edit(ridden() ? RideEdits.remove(session(), present) : RideEdits.add(session(), present));
        }
    }

    private Session session() {
        return model.session();
    }

    private boolean ridden() {
        ControlId present = id.get();
        return present != null
                && Controls.has(session(), present)
                && Controls.ride(session(), present).isPresent();
    }

    /** What it reads at the playhead while a curve moves it; what it is set to otherwise. */
    public double reading(double set) {
        ControlId present = id.get();
        return moves() && present != null ? Controls.reading(session(), present, model.playhead()) : set;
    }

    /** Whether a curve moves it now. */
    public boolean moves() {
        ControlId present = id.get();
        return present != null
                && Controls.has(session(), present)
                && Controls.moving(session(), present).isPresent();
    }

    /** Shows whether it is ridden; returns what it reads at the playhead, or what it is set to. */
    public double show(double set) {
        boolean moves = moves();
        control.pseudoClassStateChanged(RIDDEN, moves);
        control.setAccessibleHelp(moves ? "ridden" : Hint.of(control));
        return reading(set);
    }

    /**
     * Has it read a value at the playhead, with what is selected and linked; while rides are recorded, what is written.
     */
    public void move(double value, String gesture) {
        move(value, gesture, false);
    }

    /** Has it read a value, whatever else is selected and linked. */
    public void moveAlone(double value, String gesture) {
        move(value, gesture, true);
    }

    private void move(double value, String gesture, boolean alone) {
        ControlId present = id.get();
        if (present != null && Controls.settable(session(), present)) {
            model.hand().move(present, value, gesture, alone);
            if (control instanceof ToggleButton toggle && Controls.has(session(), present)) {
                // A click turns the button over, also where the switch stays.
                toggle.setSelected(Controls.reading(session(), present, model.playhead()) >= 0.5);
            }
        }
    }
}
