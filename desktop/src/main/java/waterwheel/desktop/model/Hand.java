package waterwheel.desktop.model;

import java.util.List;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import org.jspecify.annotations.Nullable;
import waterwheel.core.rides.Scale;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.core.session.Session;

/** The hand on the controls, wherever they are on the screen or outside of it: one way in which all of them are moved. */
public final class Hand {
    private final SessionModel model;

    private final ReadOnlyObjectWrapper<@Nullable ControlId> last = new ReadOnlyObjectWrapper<>();

    Hand(SessionModel model) {
        this.model = model;
    }

    /**
     * Has a control read a value at the playhead; while rides are recorded it is written.
     *
     * @param gesture moves of one gesture are undone in one step
     * @param alone whether what is selected and linked stays where it is
     */
    public void move(ControlId id, double value, String gesture, boolean alone) {
        Session session = model.session();
        // Told anew also where it is the same one.
        last.set(null);
        last.set(id);
        boolean control = Controls.has(session, id);
        if (control && model.rideTakes().writes()) {
            model.rideTakes().move(id, value);
            return;
        }
        boolean fixed = control
                && Controls.control(session, id).scale() == Scale.SWITCH
                && Controls.moving(session, id).isPresent();
        if (fixed) {
            model.tell(Controls.name(session, id) + " of " + Controls.ownerName(session, id)
                    + " is ridden. Change its lane in Rides, record over it, or suspend it.");
            return;
        }
        List<Channel> along =
                alone ? List.of() : session.find(id.owner()).map(model::meant).orElse(List.of());
        model.edit(waterwheel.core.edit.Hand.move(session, id, along, model.playhead(), value), gesture);
    }

    /** The control that was moved last; null before any was. */
    public ReadOnlyObjectProperty<@Nullable ControlId> lastProperty() {
        return last.getReadOnlyProperty();
    }

    /** Has a control let go: a hand is off it. */
    public void release(ControlId id) {
        model.rideTakes().release(id);
    }
}
