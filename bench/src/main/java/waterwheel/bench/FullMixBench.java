package waterwheel.bench;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.Processor;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.processing.Compressor;
import waterwheel.core.processing.Convolution;
import waterwheel.core.processing.Equaliser;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.Ride;
import waterwheel.core.rides.Rides;
import waterwheel.core.session.Bus;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Output;
import waterwheel.core.session.Placement;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;

/**
 * Renders a full mix: stereo tracks with gain, four filters, compressor, fader and placement, into four buses with a bell
 * and a compressor each, into main; eight post-fader sends into one convolution reverb with a
 * stereo response of two seconds.
 */
final class FullMixBench {
    private static final int WARM_UPS = 2;
    private static final int BUSES = 4;
    private static final int SENDS = 8;
    private static final int RESPONSE_SECONDS = 2;
    private static final ChannelId HALL = new ChannelId("hall");

    private FullMixBench() {}

    static String run(int tracks, int seconds, Path folder) throws Exception {
        return NoiseSession.timeRender(
                "render full mix of " + tracks + " stereo tracks",
                session(tracks, seconds, folder),
                folder,
                seconds,
                WARM_UPS);
    }

    /** The still mix, and by turns the same mix with a fader curve, a position and a bell gain on every track that always move. */
    static String runRides(int tracks, int seconds, Path folder) throws Exception {
        Session still = session(tracks, seconds, folder);
        String lines = Measured.byTurns(
                seconds,
                WARM_UPS,
                "render still mix of " + tracks + " stereo tracks",
                NoiseSession.mix(still, folder),
                "render ridden mix of " + tracks + " stereo tracks",
                NoiseSession.mix(ridden(still, seconds), folder));
        NoiseSession.delete(folder);
        return lines;
    }

    private static Session ridden(Session still, int seconds) {
        Session out = still;
        for (Track track : still.tracks()) {
            Strip strip = track.strip();
            Insert filters = strip.inserts().getFirst();
            Insert moving = filters.withRides(filters.rides().with("bell1Db", Ride.of(wave(seconds, -3, 6))));
            Rides rides = Rides.NONE
                    .with("faderDb", Ride.of(wave(seconds, strip.faderDb(), 3)))
                    .with("position", Ride.of(wave(seconds, 0, 0.6)));
            out = out.withStrip(
                    track.id(),
                    s -> s.withInserts(List.of(moving, s.inserts().getLast())).withRides(rides));
        }
        return out;
    }

    /** A curve that goes up and down, a point every quarter of a second. */
    private static Curve wave(int seconds, double middle, double reach) {
        List<CurvePoint> points = new ArrayList<>();
        for (int i = 0; i <= 4 * seconds; i++) {
            double value = middle + (i % 2 == 0 ? reach : -reach) / 2;
            points.add(new CurvePoint(i * 12_000L, value, CurvePoint.Shape.LINE));
        }
        return new Curve(points);
    }

    static Session session(int tracks, int seconds, Path folder) throws Exception {
        NoiseSession made = new NoiseSession(folder, seconds, SampleEncoding.FLOAT_32);
        Processor filters = Processor.usual(Equaliser.KIND)
                .with("highPassHz", 60)
                .with("highPassSlope", 1)
                .with("lowShelfDb", 2)
                .with("bell1Db", -3)
                .with("highShelfDb", 1.5);
        Processor bell = Processor.usual(Equaliser.KIND).with("bell1Db", 2);
        Processor compressor = Processor.usual(Compressor.KIND);
        for (int t = 0; t < tracks; t++) {
            made.addTrack(Strip.unity(Output.to(bus(t % BUSES)))
                    .withTrimDb(-6 + t * 0.1)
                    .withFaderDb(-3 - t * 0.2)
                    .withPlacement(new Placement((t - tracks / 2.0) / tracks, 1, Placement.Mode.BALANCE))
                    .withInserts(List.of(slot("i1", filters), slot("i2", compressor)))
                    .withSends(t < SENDS ? List.of(Send.toBus(HALL, -12)) : List.of()));
        }
        for (int b = 0; b < BUSES; b++) {
            made.add(new Bus(
                    bus(b),
                    "Bus " + b,
                    Strip.unity(Output.to(NoiseSession.MAIN))
                            .withInserts(List.of(slot("i1", bell), slot("i2", compressor)))));
        }
        Processor hall = Processor.usual(Convolution.KIND).withResponse(made.addResponse(RESPONSE_SECONDS));
        made.add(new Bus(
                HALL, "Hall", Strip.unity(Output.to(NoiseSession.MAIN)).withInserts(List.of(slot("i1", hall)))));
        return made.whole();
    }

    private static ChannelId bus(int number) {
        return new ChannelId("bus" + number);
    }

    private static Insert slot(String id, Processor processor) {
        return Insert.of(new SlotId(id), processor.kind()).withProcessor(processor);
    }
}
