package waterwheel.core.findings;

import java.util.List;
import java.util.OptionalDouble;
import waterwheel.core.edit.Edit;
import waterwheel.core.edit.RideEdits;
import waterwheel.core.rides.Control;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.Ride;
import waterwheel.core.rides.Scale;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.units.LevelText;

/** What is found of rides. */
final class RideFindings {
    /** A line over less than this is heard as a click where it goes far; a jump crosses over in as much. */
    private static final int CLICK_FRAMES = 240;

    private static final double CLICK_DB = 6;
    /** How long a control may stand at the end of its travel. */
    private static final double MOMENT_SECONDS = 1;

    private final Session session;
    private final FindingList found;

    RideFindings(Session session, FindingList found) {
        this.session = session;
        this.found = found;
    }

    void judge() {
        for (Channel channel : session.channels()) {
            for (ControlId id : Controls.ridden(session, channel.id())) {
                Ride ride = Controls.ride(session, id).orElseThrow();
                if (ride.active()) {
                    judge(channel, id, ride);
                }
            }
        }
    }

    private void judge(Channel channel, ControlId id, Ride ride) {
        String what = "The ride of " + Controls.name(session, id) + " of " + channel.name();
        if (unheard(channel, id)) {
            found.add(
                    Finding.Rule.RIDE_UNHEARD,
                    channel,
                    what + " is heard by nobody: "
                            + (id.part() instanceof ControlId.OfInsert
                                    ? "its insert is bypassed."
                                    : "the channel is muted."),
                    "Take it away, or let it be heard.",
                    OptionalDouble.empty(),
                    RideEdits.remove(session, id));
            return;
        }
        judgeMoving(channel, id, ride, what);
        judgeClicks(channel, id, ride, what);
        judgeEnd(channel, id, ride, what);
    }

    private boolean unheard(Channel channel, ControlId id) {
        Strip strip = channel.strip();
        return switch (id.part()) {
            case ControlId.OfInsert(var slot) ->
                strip.inserts().stream().anyMatch(i -> i.id().equals(slot) && !i.runs());
            case ControlId.OfStrip() -> muted(strip) && !id.key().equals(Strip.MUTED.key());
            case ControlId.OfSend _ -> muted(strip);
        };
    }

    private static boolean muted(Strip strip) {
        return strip.muted() && strip.rides().active(Strip.MUTED.key()).isEmpty();
    }

    private void judgeMoving(Channel channel, ControlId id, Ride ride, String what) {
        List<CurvePoint> points = ride.curve().points();
        boolean moves = !ride.offsetCurve().isNone()
                || points.stream().anyMatch(p -> p.value() != points.getFirst().value());
        if (!moves && points.size() > 1) {
            found.add(
                    Finding.Rule.RIDE_STANDS,
                    channel,
                    what + " never moves.",
                    "Take it away; a value that is set says the same.",
                    OptionalDouble.empty(),
                    RideEdits.remove(session, id));
        }
    }

    /** Gains that go far in a line of less than 5 ms. */
    private void judgeClicks(Channel channel, ControlId id, Ride ride, String what) {
        Control control = Controls.control(session, id);
        if (!control.unit().equals("dB") || control.scale() != Scale.PLAIN) {
            return;
        }
        List<CurvePoint> points = ride.curve().points();
        for (int i = 0; i + 1 < points.size(); i++) {
            CurvePoint from = points.get(i);
            CurvePoint to = points.get(i + 1);
            boolean fast = from.shape() != CurvePoint.Shape.HOLD
                    && to.frame() - from.frame() < CLICK_FRAMES
                    && Math.abs(to.value() - from.value()) > CLICK_DB;
            if (fast) {
                double at = (double) from.frame() / session.sampleRateHz();
                found.add(
                        Finding.Rule.RIDE_CLICKS,
                        channel,
                        what + " goes "
                                + LevelText.signed(Math.abs(to.value() - from.value()), 1, false) + " dB within "
                                + LevelText.signed(
                                        1_000.0 * (to.frame() - from.frame()) / session.sampleRateHz(), 1, false)
                                + " ms at " + LevelText.time(at) + ", which is heard as a click.",
                        "Make it a jump, which crosses over in 5 ms, or give it more time.",
                        OptionalDouble.of(at),
                        held(id, from));
                return;
            }
        }
    }

    private Edit held(ControlId id, CurvePoint from) {
        return RideEdits.point(session, id, new CurvePoint(from.frame(), from.value(), CurvePoint.Shape.HOLD));
    }

    /** A fader, trim or level that is asked for more than its travel has. */
    private void judgeEnd(Channel channel, ControlId id, Ride ride, String what) {
        Control control = Controls.control(session, id);
        if (!control.unit().equals("dB") || control.scale() != Scale.PLAIN) {
            return;
        }
        long step = session.sampleRateHz() / 10;
        long end = session.lengthFrames();
        long began = -1;
        for (long frame = 0; frame < end; frame += step) {
            boolean beyond = ride.at(frame, control.scale()) >= control.most();
            if (beyond && began < 0) {
                began = frame;
            }
            if (beyond && frame - began > MOMENT_SECONDS * session.sampleRateHz()) {
                double at = (double) began / session.sampleRateHz();
                found.add(
                        Finding.Rule.RIDE_AT_END,
                        channel,
                        what + " stands at the end of its travel, "
                                + LevelText.level(control.most(), "dB") + ", from " + LevelText.time(at)
                                + " on: it cannot go"
                                + " further.",
                        "Turn the channel up before it, or take the offset back.",
                        OptionalDouble.of(at),
                        null);
                return;
            }
            if (!beyond) {
                began = -1;
            }
        }
    }
}
