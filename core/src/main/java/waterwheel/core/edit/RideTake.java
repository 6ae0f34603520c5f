package waterwheel.core.edit;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import waterwheel.core.rides.Control;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.CurveRange;
import waterwheel.core.rides.Ride;
import waterwheel.core.rides.Scale;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.core.session.Session;

/**
 * A pass in which controls are ridden by hand while the song plays. A control writes from where it is grabbed to where it
 * is released, and only there; several controls are written in one step. Frames are the song's and grow. For one thread.
 */
public final class RideTake {
    private final Session before;
    private final Release release;
    private final Behind behind;
    private final long springFrames;
    private final Map<ControlId, Pass> passes = new LinkedHashMap<>();

    /** What a control does when it is let go. */
    public enum Release {
        /** Goes back to what was written, over a set time. */
        SPRINGS_BACK("springs back"),
        /** Stays where it is until stop. */
        STAYS("stays");

        private final String label;

        Release(String label) {
            this.label = label;
        }

        /** The words on screen. */
        public String label() {
            return label;
        }
    }

    /** What lies behind the stop of a control that was held or stayed. */
    public enum Behind {
        AS_WRITTEN("as it was written"),
        TO_NEXT_POINT("held to the next point"),
        TO_END("held to the end");

        private final String label;

        Behind(String label) {
            this.label = label;
        }

        /** The words on screen. */
        public String label() {
            return label;
        }
    }

    /** What one control has written. */
    private static final class Pass {
        private final Ride before;
        /** What lies on top of what is written: the ride's own offsets, and those of clips. */
        private final Ride above;

        private final List<List<CurvePoint>> stretches = new ArrayList<>();
        private boolean held;

        Pass(Ride before, Ride above) {
            this.before = before;
            this.above = above;
        }
    }

    /**
     * Begins a pass.
     *
     * @param before the session as it was before anything was grabbed
     * @param springSeconds how long springing back takes
     */
    public RideTake(Session before, Release release, Behind behind, double springSeconds) {
        this.before = before;
        this.release = release;
        this.behind = behind;
        springFrames = Math.max(1, Math.round(springSeconds * before.sampleRateHz()));
    }

    /** Whether anything was written. */
    public boolean wrote() {
        return !passes.isEmpty();
    }

    private Pass begun(ControlId id) {
        Ride own = Controls.ride(before, id)
                .orElseGet(() -> Controls.still(before, id))
                .withSuspended(false);
        return new Pass(own, Controls.moving(Controls.with(before, id, own), id).orElse(own));
    }

    /** Whether a control is held. */
    public boolean holds(ControlId id) {
        Pass pass = passes.get(id);
        return pass != null && pass.held;
    }

    /**
     * Has a control grabbed, or moved while it is held, at a frame.
     *
     * @param value that it is to read there
     * @return what is heard while it is held: the control stands there
     */
    public Edit move(ControlId id, long frame, double value) {
        Pass pass = passes.computeIfAbsent(id, this::begun);
        if (!pass.held) {
            pass.held = true;
            boolean goesOn = release == Release.STAYS && !pass.stretches.isEmpty();
            if (!goesOn) {
                pass.stretches.add(new ArrayList<>());
            }
        }
        Control control = Controls.control(before, id);
        double lift = pass.above.offset() + pass.above.offsetCurve().at(frame);
        double written = control.limited(control.scale().offset(control.limited(value), -lift));
        add(pass, new CurvePoint(frame, written, shape(id)));
        Ride heard = pass.before.withCurve(new Curve(List.of(new CurvePoint(0, written, CurvePoint.Shape.HOLD))));
        return new Edit("Ride", session -> Controls.with(session, id, heard));
    }

    private CurvePoint.Shape shape(ControlId id) {
        return Controls.control(before, id).scale() == Scale.SWITCH ? CurvePoint.Shape.HOLD : CurvePoint.Shape.LINE;
    }

    /** The last value at a frame counts; what came before it stays until there. */
    private static void add(Pass pass, CurvePoint point) {
        List<CurvePoint> points = pass.stretches.getLast();
        if (!points.isEmpty()) {
            CurvePoint last = points.getLast();
            if (last.frame() >= point.frame()) {
                points.removeLast();
            } else if (last.frame() < point.frame() - 1 && last.value() != point.value()) {
                // It rested until it moved.
                points.add(new CurvePoint(point.frame() - 1, last.value(), last.shape()));
            }
        }
        long least = points.isEmpty() ? 0 : points.getLast().frame() + 1;
        points.add(new CurvePoint(Math.max(least, point.frame()), point.value(), point.shape()));
    }

    /** Has a control let go at a frame. */
    public void release(ControlId id, long frame) {
        Pass pass = passes.get(id);
        if (pass == null || !pass.held) {
            return;
        }
        pass.held = false;
        CurvePoint last = pass.stretches.getLast().getLast();
        add(pass, new CurvePoint(Math.max(frame, last.frame()), last.value(), last.shape()));
        if (release == Release.SPRINGS_BACK) {
            Control control = Controls.control(before, id);
            long spring = control.scale() == Scale.SWITCH ? 1 : springFrames;
            long back = pass.stretches.getLast().getLast().frame() + spring;
            pass.stretches
                    .getLast()
                    .add(new CurvePoint(back, pass.before.curve().at(back, control.scale()), shape(id)));
        }
    }

    /**
     * Returns what was written, thinned, as one step on the session as it was before, or on one in which the held
     * controls moved meanwhile.
     *
     * @param frame where the song stopped
     */
    public Edit stop(long frame) {
        Map<ControlId, Ride> written = new LinkedHashMap<>();
        passes.forEach((id, pass) -> {
            boolean open = pass.held || release == Release.STAYS;
            if (open) {
                CurvePoint last = pass.stretches.getLast().getLast();
                add(pass, new CurvePoint(Math.max(frame, last.frame()), last.value(), last.shape()));
            }
            written.put(id, pass.before.withCurve(curve(id, pass, open)));
        });
        String what = written.size() == 1
                ? Controls.name(before, written.keySet().iterator().next()) + " of "
                        + Controls.ownerName(before, written.keySet().iterator().next())
                : written.size() + " controls";
        return new Edit("Recorded ride of " + what, session -> {
            Session out = session;
            for (Map.Entry<ControlId, Ride> one : written.entrySet()) {
                out = Controls.with(out, one.getKey(), one.getValue());
            }
            return out;
        });
    }

    /** Returns the step that puts everything back as it was. */
    public Edit cancel() {
        return new Edit("Rehearsed ride", session -> {
            Session out = session;
            for (ControlId id : passes.keySet()) {
                out = Controls.with(out, id, Controls.ride(before, id).orElse(Ride.of(Curve.NONE)));
            }
            return out;
        });
    }

    private Curve curve(ControlId id, Pass pass, boolean open) {
        Control control = Controls.control(before, id);
        Curve curve = pass.before.curve();
        for (List<CurvePoint> points : pass.stretches) {
            List<CurvePoint> thinned = RideEdits.thinned(control, points);
            CurveRange range =
                    new CurveRange(points.getFirst().frame(), points.getLast().frame() + 1);
            curve = range.overwritten(curve, thinned, control.scale());
        }
        return open
                ? heldBehind(
                        curve, pass.before.curve(), pass.stretches.getLast().getLast())
                : curve;
    }

    /** What lies behind the stop gives way to the last value, as far as was asked for. */
    private Curve heldBehind(Curve curve, Curve earlier, CurvePoint last) {
        long until =
                switch (behind) {
                    case AS_WRITTEN -> last.frame();
                    case TO_NEXT_POINT ->
                        earlier.points().stream()
                                .mapToLong(CurvePoint::frame)
                                .filter(frame -> frame > last.frame())
                                .findFirst()
                                .orElse(Long.MAX_VALUE);
                    case TO_END -> Long.MAX_VALUE;
                };
        if (behind == Behind.AS_WRITTEN) {
            return curve;
        }
        List<CurvePoint> kept = new ArrayList<>();
        for (CurvePoint point : curve.points()) {
            if (point.frame() < last.frame() || point.frame() >= until) {
                kept.add(point);
            }
        }
        Curve out = new Curve(kept);
        return out.with(new CurvePoint(last.frame(), last.value(), CurvePoint.Shape.HOLD));
    }
}
