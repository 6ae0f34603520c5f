package waterwheel.desktop.model;

import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.util.Subscription;
import org.jspecify.annotations.Nullable;
import waterwheel.core.edit.Edit;
import waterwheel.core.edit.RideTake;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.Ride;
import waterwheel.core.rides.Scale;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.core.session.Session;

/**
 * Records rides: while that is on and the song plays, controls write from grab to release. What the hand does is heard at
 * once, as an offset; when the song stops all of it becomes what is written, in one step.
 */
public final class RideTakes implements AutoCloseable {
    private static final double SPRING_SECONDS = 0.3;
    private static int takes;

    private final SessionModel model;
    private final ObjectProperty<Boolean> recording = new SimpleObjectProperty<>(false);
    private final ObjectProperty<Boolean> rehearsing = new SimpleObjectProperty<>(false);
    private final ObjectProperty<RideTake.Release> release = new SimpleObjectProperty<>(RideTake.Release.SPRINGS_BACK);
    private final ObjectProperty<RideTake.Behind> behind = new SimpleObjectProperty<>(RideTake.Behind.AS_WRITTEN);
    private final Subscription playing;
    private @Nullable RideTake take;
    private @Nullable Session before;
    private String gesture = "";

    RideTakes(SessionModel model) {
        this.model = model;
        playing = model.transport().playingProperty().subscribe(now -> {
            if (!now) {
                stop();
            }
        });
    }

    /** Whether controls that are moved while the song plays write what they do. */
    public ObjectProperty<Boolean> recordingProperty() {
        return recording;
    }

    /** Whether everything is put back at the stop. */
    public ObjectProperty<Boolean> rehearsingProperty() {
        return rehearsing;
    }

    /** What a control does when it is let go. */
    public ObjectProperty<RideTake.Release> releaseProperty() {
        return release;
    }

    /** What lies behind the stop. */
    public ObjectProperty<RideTake.Behind> behindProperty() {
        return behind;
    }

    /** Whether what a hand does now is written. */
    public boolean writes() {
        return recording.get() && model.transport().playingProperty().get();
    }

    /** Takes where a hand has moved a control. */
    public void move(ControlId id, double value) {
        RideTake now = take;
        if (now == null) {
            before = model.session();
            now = new RideTake(model.session(), release.get(), behind.get(), SPRING_SECONDS);
            take = now;
            gesture = "take " + ++takes;
        }
        boolean clickedAgain = isSwitch(id) && now.holds(id) && release.get() == RideTake.Release.SPRINGS_BACK;
        if (clickedAgain) {
            letGo(id);
        } else {
            model.edit(now.move(id, model.playhead(), value), gesture);
        }
    }

    /** A switch is clicked: it is held until it is clicked again, or the song stops. */
    private boolean isSwitch(ControlId id) {
        return Controls.control(model.session(), id).scale() == Scale.SWITCH;
    }

    /** Has a control let go. */
    public void release(ControlId id) {
        if (take != null && !isSwitch(id)) {
            letGo(id);
        }
    }

    private void letGo(ControlId id) {
        RideTake now = take;
        Session earlier = before;
        if (now == null || earlier == null) {
            return;
        }
        now.release(id, model.playhead());
        if (release.get() == RideTake.Release.SPRINGS_BACK) {
            Ride written = Controls.ride(earlier, id).orElse(Ride.of(Curve.NONE));
            model.edit(new Edit("Release", session -> Controls.with(session, id, written)), gesture);
        }
    }

    private void stop() {
        RideTake done = take;
        take = null;
        before = null;
        if (done != null && done.wrote()) {
            model.edit(rehearsing.get() ? done.cancel() : done.stop(model.playhead()), gesture);
        }
    }

    @Override
    public void close() {
        playing.unsubscribe();
    }
}
