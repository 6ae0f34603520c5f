package waterwheel.desktop.model;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javafx.animation.PauseTransition;
import javafx.application.Platform;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.util.Duration;
import javafx.util.Subscription;
import org.jspecify.annotations.Nullable;
import waterwheel.core.controllers.ControllerMove;
import waterwheel.core.controllers.ControllerPart;
import waterwheel.core.controllers.ControllerPort;
import waterwheel.core.controllers.MidiPort;
import waterwheel.core.controllers.Pickup;
import waterwheel.core.controllers.SimulatedController;
import waterwheel.core.edit.ControllerEdits;
import waterwheel.core.rides.Control;
import waterwheel.core.rides.Scale;
import waterwheel.core.session.Assignment;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.core.session.Session;

/**
 * The controllers' parts on the session's controls. A part takes its control up where it meets it; one that has rested for
 * a while has been let go. While learning, the part and the control that were moved last belong together.
 */
public final class Controllers implements AutoCloseable {
    /** A part that has rested for so long has been let go: there is no message for that. */
    private static final Duration REST = Duration.millis(500);

    private static int gestures;

    private final SessionModel model;
    private final ControllerPort port;
    private final SimulatedController simulated = new SimulatedController();
    private final Pickup pickup = new Pickup();
    private final Map<ControllerPart, Held> held = new HashMap<>();
    private final BooleanProperty learning = new SimpleBooleanProperty();
    private final ReadOnlyObjectWrapper<List<String>> names = new ReadOnlyObjectWrapper<>(List.of());
    private final ReadOnlyObjectWrapper<@Nullable ControllerMove> moved = new ReadOnlyObjectWrapper<>();
    private final Subscription hands;
    private @Nullable ControllerPart learntPart;
    private @Nullable ControlId learntControl;

    /** A part that a hand is on. */
    private record Held(PauseTransition rest, String gesture) {}

    Controllers(SessionModel model) {
        this(model, new MidiPort());
    }

    Controllers(SessionModel model, ControllerPort port) {
        this.model = model;
        this.port = port;
        simulated.listen(this::hear);
        hands = Subscription.combine(
                model.hand().lastProperty().subscribe(this::learn), learning.subscribe(on -> forgetLearnt()));
    }

    /** Listens to all controllers that are connected now. */
    public void look() {
        names.set(List.copyOf(port.listen(this::hear)));
    }

    /** The names of the controllers that are connected. */
    public ReadOnlyObjectProperty<List<String>> namesProperty() {
        return names.getReadOnlyProperty();
    }

    /** Whether a part and a control that are moved are made to belong together. */
    public BooleanProperty learningProperty() {
        return learning;
    }

    /** What was moved last on a controller; null before anything was. */
    public ReadOnlyObjectProperty<@Nullable ControllerMove> movedProperty() {
        return moved.getReadOnlyProperty();
    }

    /** The controller for those who have none. */
    public SimulatedController simulated() {
        return simulated;
    }

    private void hear(ControllerMove move) {
        // Keys are played at once, on the thread that tells of them.
        if (model.keys().hear(move)) {
            return;
        }
        if (Platform.isFxApplicationThread()) {
            take(move);
        } else {
            Platform.runLater(() -> take(move));
        }
    }

    private void take(ControllerMove move) {
        ControllerMove before = moved.get();
        if (learning.get()) {
            learntPart = move.part();
            join();
            moved.set(move);
            return;
        }
        moved.set(move);
        Session session = model.session();
        for (Assignment one : session.assignments()) {
            if (one.part().equals(move.part()) && Controls.has(session, one.control())) {
                move(one.control(), move, before);
            }
        }
    }

    private void move(ControlId id, ControllerMove move, @Nullable ControllerMove before) {
        Session session = model.session();
        Control control = Controls.control(session, id);
        double reading = Controls.reading(session, id, model.playhead());
        if (control.scale() == Scale.SWITCH) {
            boolean pressed = move.place() >= 0.5
                    && (before == null || !before.part().equals(move.part()) || before.place() < 0.5);
            if (pressed) {
                model.hand().move(id, reading >= 0.5 ? 0 : 1, "", false);
            }
        } else if (pickup.takes(move.part(), control.toPlace(reading), move.place())) {
            model.hand().move(id, control.toValue(move.place()), hold(move.part(), id), false);
        }
    }

    /** Where a part that has not met its control yet must be moved to; empty where it moves it. */
    public Optional<Double> awaited(Assignment assignment) {
        ControllerMove last = moved.get();
        Session session = model.session();
        boolean waits = last != null
                && last.part().equals(assignment.part())
                && !held.containsKey(assignment.part())
                && Controls.has(session, assignment.control())
                && Controls.control(session, assignment.control()).scale() != Scale.SWITCH;
        return waits
                ? Optional.of(Controls.reading(session, assignment.control(), model.playhead()))
                : Optional.empty();
    }

    /** The gesture that a part's movement belongs to, from when it is touched until it rests. */
    private String hold(ControllerPart part, ControlId id) {
        Held present = held.computeIfAbsent(part, any -> {
            PauseTransition rest = new PauseTransition(REST);
            rest.setOnFinished(event -> {
                held.remove(part);
                model.hand().release(id);
            });
            return new Held(rest, "controller " + ++gestures);
        });
        present.rest().playFromStart();
        return present.gesture();
    }

    private void learn(@Nullable ControlId control) {
        if (learning.get() && control != null) {
            learntControl = control;
            join();
        }
    }

    private void join() {
        ControllerPart part = learntPart;
        ControlId control = learntControl;
        if (part != null && control != null) {
            forgetLearnt();
            pickup.forget(part);
            model.edit(ControllerEdits.assign(model.session(), part, control));
            model.tell(part.inWords() + " moves "
                    + Controls.name(model.session(), control) + " of "
                    + Controls.ownerName(model.session(), control) + ".");
        }
    }

    private void forgetLearnt() {
        learntPart = null;
        learntControl = null;
    }

    /** What is still to be moved while learning. */
    public String learningInWords() {
        if (learntPart != null) {
            return learntPart.inWords() + " was moved: move the control that it is for.";
        }
        if (learntControl != null) {
            return Controls.name(model.session(), learntControl) + " of "
                    + Controls.ownerName(model.session(), learntControl) + " was moved: move a part of the controller.";
        }
        return "Move a control on the screen and a part of the controller, in any order.";
    }

    @Override
    public void close() {
        hands.unsubscribe();
        new ArrayList<>(held.values()).forEach(one -> one.rest().stop());
        simulated.close();
        port.close();
    }
}
