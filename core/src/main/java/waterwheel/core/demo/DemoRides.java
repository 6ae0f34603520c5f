package waterwheel.core.demo;

import java.util.List;
import waterwheel.core.edit.RideEdits;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.Ride;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.core.session.Session;

/**
 * What moves in the demo: the voice comes over the band in the chorus, the fiddle forward for its tune, the hall opens at
 * the end, the harmonium makes room for the voice, its equaliser comes back when the voice has ended, and a VCA fades the
 * end of the song.
 */
final class DemoRides {
    private static final ChannelId LEAD = new ChannelId("lead-voice");
    private static final ChannelId FIDDLE = new ChannelId("fiddle-1");
    private static final ChannelId HARMONIUM = new ChannelId("harmonium");
    private static final ChannelId BAND = new ChannelId("vca-band");
    private static final double ROOM_DB = -4;

    private DemoRides() {}

    static Session added(Session plain, SlotId leadEqualiser, SlotId harmoniumEqualiser) {
        Session session = plain;
        session = ridden(
                session,
                ControlId.ofStrip(LEAD, "faderDb"),
                smooth(Tune.VERSE, 0),
                smooth(Tune.CHORUS - 1, 0),
                line(Tune.CHORUS, 1.8),
                line(Tune.CHORUS + 8, 2.4),
                smooth(Tune.SECOND_TUNE - 1, 2.4),
                line(Tune.SECOND_TUNE, 0));
        session = ridden(
                session,
                ControlId.ofSend(LEAD, 0, "levelDb"),
                line(Tune.VERSE, -14),
                smooth(Tune.SECOND_TUNE - 4, -14),
                line(Tune.SECOND_TUNE - 1, -6));
        session = ridden(
                session,
                ControlId.ofInsert(LEAD, leadEqualiser, "bell2Db"),
                line(Tune.VERSE, 2.5),
                smooth(Tune.CHORUS - 1, 2.5),
                line(Tune.CHORUS, 4.5),
                smooth(Tune.SECOND_TUNE - 1, 4.5),
                line(Tune.SECOND_TUNE, 2.5));
        session = ridden(
                session,
                ControlId.ofStrip(FIDDLE, "faderDb"),
                smooth(Tune.SECOND_TUNE - 1, 0),
                line(Tune.SECOND_TUNE, 3),
                line(Tune.ENDING - 4, 3),
                line(Tune.ENDING, 1));
        session = ridden(
                session,
                ControlId.ofStrip(FIDDLE, "position"),
                line(0, -0.45),
                smooth(Tune.SECOND_TUNE - 2, -0.45),
                line(Tune.SECOND_TUNE, -0.1),
                smooth(Tune.ENDING - 2, -0.1),
                line(Tune.ENDING, -0.45));
        Ride still = Controls.still(session, ControlId.ofStrip(HARMONIUM, "faderDb"));
        Curve room = new Curve(List.of(
                smooth(Tune.VERSE - 1, 0),
                new CurvePoint(frame(Tune.VERSE), ROOM_DB, CurvePoint.Shape.HOLD),
                smooth(Tune.SECOND_TUNE, ROOM_DB),
                line(Tune.SECOND_TUNE + 2, 0)));
        session = Controls.with(session, ControlId.ofStrip(HARMONIUM, "faderDb"), still.withOffsetCurve(room));
        session = ridden(
                session,
                ControlId.ofInsert(HARMONIUM, harmoniumEqualiser, "bell2Db"),
                line(0, 0),
                smooth(Tune.VERSE - 1, 0),
                line(Tune.VERSE, -5),
                smooth(Tune.SECOND_TUNE, -5),
                line(Tune.SECOND_TUNE + 1, 0));
        return ridden(
                session, ControlId.ofStrip(BAND, "faderDb"), line(0, 0), smooth(Tune.ENDING, 0), line(Tune.BARS, -12));
    }

    private static Session ridden(Session session, ControlId id, CurvePoint... points) {
        Session out = RideEdits.add(session, id).apply(session);
        return Controls.with(out, id, Ride.of(new Curve(List.of(points))));
    }

    private static CurvePoint line(int bar, double value) {
        return new CurvePoint(frame(bar), value, CurvePoint.Shape.LINE);
    }

    private static CurvePoint smooth(int bar, double value) {
        return new CurvePoint(frame(bar), value, CurvePoint.Shape.SMOOTH);
    }

    private static long frame(int bar) {
        return DemoSession.frame(bar);
    }
}
