package waterwheel.core.edit;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;
import waterwheel.core.rides.Control;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.CurveRange;
import waterwheel.core.rides.CurveThinning;
import waterwheel.core.rides.Ride;
import waterwheel.core.rides.Scale;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.core.session.Session;

/** The edits of rides. Values beyond a control's range stop at its end; frames are the song's. */
public final class RideEdits {
    /** A thinned curve stays this near to what was drawn or recorded, in dB. */
    public static final double THINNED_DB = 0.1;
    /** For other units, this part of the control's range. */
    private static final double THINNED_PART = 1 / 500.0;

    private RideEdits() {}

    private static Edit change(Session named, String what, ControlId id, UnaryOperator<Ride> change) {
        return new Edit(
                what + " of " + Controls.name(named, id) + " of " + Controls.ownerName(named, id),
                s -> Controls.with(s, id, change.apply(Controls.ride(s, id).orElseGet(() -> Controls.still(s, id)))));
    }

    /** Gives a control a curve that says what it is set to. */
    public static Edit add(Session session, ControlId id) {
        return change(session, "Ride", id, ride -> ride);
    }

    /** Takes a control's ride away; it stands where it is set. */
    public static Edit remove(Session session, ControlId id) {
        return change(session, "Removal of the ride", id, ride -> ride.withCurve(Curve.NONE));
    }

    /** Suspends a ride, or takes it up again; the curve stays. */
    public static Edit suspend(Session session, ControlId id, boolean suspended) {
        return change(session, suspended ? "Suspension" : "Resumption", id, ride -> ride.withSuspended(suspended));
    }

    /** Sets a point, or the value and shape of the one that is at that frame. */
    public static Edit point(Session session, ControlId id, CurvePoint point) {
        Control control = Controls.control(session, id);
        CurvePoint limited = new CurvePoint(point.frame(), control.limited(point.value()), point.shape());
        return change(session, "Point", id, ride -> ride.withCurve(ride.curve().with(limited)));
    }

    /** Moves a point; it stays between its neighbours. */
    public static Edit movePoint(Session session, ControlId id, long frame, CurvePoint to) {
        Control control = Controls.control(session, id);
        return change(session, "Point", id, ride -> {
            List<CurvePoint> points = ride.curve().points();
            int at = indexOf(points, frame);
            if (at < 0) {
                return ride;
            }
            long least = at == 0 ? 0 : points.get(at - 1).frame() + 1;
            long most = at + 1 == points.size()
                    ? Long.MAX_VALUE
                    : points.get(at + 1).frame() - 1;
            CurvePoint moved =
                    new CurvePoint(Math.clamp(to.frame(), least, most), control.limited(to.value()), to.shape());
            return ride.withCurve(ride.curve().without(frame).with(moved));
        });
    }

    private static int indexOf(List<CurvePoint> points, long frame) {
        for (int i = 0; i < points.size(); i++) {
            if (points.get(i).frame() == frame) {
                return i;
            }
        }
        return -1;
    }

    /** Takes points away; the last one of a curve takes the ride with it. */
    public static Edit removePoints(Session session, ControlId id, List<Long> frames) {
        return change(
                session,
                frames.size() == 1 ? "Removal of a point" : "Removal of points",
                id,
                ride -> ride.withCurve(new Curve(ride.curve().points().stream()
                        .filter(point -> !frames.contains(point.frame()))
                        .toList())));
    }

    /**
     * Writes what was drawn by hand or recorded over a stretch, thinned.
     *
     * @param points by frame, at least one; the stretch is from the first to the last one
     */
    public static Edit write(Session session, ControlId id, List<CurvePoint> points) {
        Control control = Controls.control(session, id);
        List<CurvePoint> thinned = thinned(control, points);
        CurveRange range =
                new CurveRange(thinned.getFirst().frame(), thinned.getLast().frame() + 1);
        return change(
                session, "Ride", id, ride -> ride.withCurve(range.overwritten(ride.curve(), thinned, control.scale())));
    }

    /** Points of which those are left out that the others say already, limited to the control's range. */
    public static List<CurvePoint> thinned(Control control, List<CurvePoint> points) {
        List<CurvePoint> limited = points.stream()
                .map(point -> new CurvePoint(point.frame(), control.limited(point.value()), point.shape()))
                .toList();
        if (control.scale() == Scale.SWITCH) {
            return switched(limited);
        }
        double within =
                control.unit().startsWith("dB") ? THINNED_DB : THINNED_PART * (control.most() - control.least());
        return CurveThinning.thinned(limited, within);
    }

    /** A switch needs a point only where it changes. */
    private static List<CurvePoint> switched(List<CurvePoint> points) {
        List<CurvePoint> kept = new ArrayList<>();
        for (CurvePoint point : points) {
            double value = point.value() >= 0.5 ? 1 : 0;
            if (kept.isEmpty() || kept.getLast().value() != value) {
                kept.add(new CurvePoint(point.frame(), value, CurvePoint.Shape.HOLD));
            }
        }
        return kept;
    }

    /** Moves what is written in a stretch by as much, in the unit of the control's scale. */
    public static Edit shift(Session session, ControlId id, CurveRange range, double by) {
        Control control = Controls.control(session, id);
        return change(
                session,
                "Shift",
                id,
                ride -> ride.withCurve(range.changed(
                        ride.curve(), v -> control.limited(control.scale().offset(v, by)), control.scale())));
    }

    /**
     * Makes what moves in a stretch larger or smaller around its mean.
     *
     * @param factor 0 for flat, 1 for as it is
     */
    public static Edit scale(Session session, ControlId id, CurveRange range, double factor) {
        Control control = Controls.control(session, id);
        return change(session, "Scale", id, ride -> {
            List<CurvePoint> points = range.cut(ride.curve(), control.scale());
            double mean =
                    points.stream().mapToDouble(CurvePoint::value).average().orElse(0);
            return ride.withCurve(
                    range.changed(ride.curve(), v -> control.limited(mean + factor * (v - mean)), control.scale()));
        });
    }

    /**
     * Copies a stretch of a control's curve to another place, of another control too: as in the first chorus.
     *
     * @param at where its first frame comes
     */
    public static Edit copy(Session session, ControlId from, CurveRange range, ControlId to, long at) {
        Control target = Controls.control(session, to);
        Ride source = Controls.ride(session, from).orElseGet(() -> Controls.still(session, from));
        Scale scale = Controls.control(session, from).scale();
        List<CurvePoint> points = range.cut(source.curve(), scale).stream()
                .map(p -> new CurvePoint(p.frame() - range.from() + at, target.limited(p.value()), p.shape()))
                .toList();
        CurveRange there = new CurveRange(at, at + range.frames());
        return change(
                session,
                "Copied ride",
                to,
                ride -> ride.withCurve(there.overwritten(ride.curve(), points, target.scale())));
    }

    /** Moves a ridden control by hand: its offset, so that it reads a value at a frame. What is written stays. */
    public static Edit byHand(Session session, ControlId id, long frame, double value) {
        Control control = Controls.control(session, id);
        double reading = Controls.reading(session, id, frame);
        double by = control.scale().from(reading, control.limited(value));
        return change(
                session,
                "Offset",
                id,
                ride -> ride.withOffset(Math.clamp(ride.offset() + by, -Ride.MOST_OFFSET, Ride.MOST_OFFSET)));
    }

    /** Sets the constant offset, in the unit of the control's scale. */
    public static Edit offset(Session session, ControlId id, double value) {
        return change(
                session, "Offset", id, ride -> ride.withOffset(Math.clamp(value, -Ride.MOST_OFFSET, Ride.MOST_OFFSET)));
    }

    /** Adds to the offset over a stretch alone. */
    public static Edit offsetDuring(Session session, ControlId id, CurveRange range, double by) {
        return change(session, "Offset", id, ride -> {
            Curve present = ride.offsetCurve().isNone()
                    ? new Curve(List.of(new CurvePoint(0, 0, CurvePoint.Shape.HOLD)))
                    : ride.offsetCurve();
            return ride.withOffsetCurve(range.changed(present, v -> v + by, Scale.PLAIN));
        });
    }

    /** The control's ride, if it moves now. */
    public static Optional<Ride> active(Session session, ControlId id) {
        return Controls.ride(session, id).filter(Ride::active);
    }
}
