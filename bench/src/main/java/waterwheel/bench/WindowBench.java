package waterwheel.bench;

import java.io.ByteArrayOutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;
import java.util.SplittableRandom;
import java.util.spi.ToolProvider;
import java.util.stream.IntStream;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.processing.Equaliser;
import waterwheel.core.rides.Control;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.Ride;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.core.session.Output;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.store.SessionFolder;

/** How quickly the window follows on a session of many tracks, of which one has many curves of many points. */
final class WindowBench {
    private static final int SECONDS = 20;
    private static final int RATE = 48_000;
    private static final int CURVES = 98;
    private static final int POINTS = 500;
    /** Equalisers have many controls. */
    private static final int INSERTS = 8;

    private static final ChannelId RIDDEN = new ChannelId("track0");

    private WindowBench() {}

    static String run(int tracks, Path folder) throws Exception {
        SessionFolder.save(session(tracks, folder), folder);
        ByteArrayOutputStream said = new ByteArrayOutputStream();
        int failed = ToolProvider.findFirst("waterwheel-workbench")
                .orElseThrow()
                .run(new PrintStream(said, true, StandardCharsets.UTF_8), System.err, "pace", folder.toString());
        NoiseSession.delete(folder);
        if (failed != 0) {
            throw new IllegalStateException("The window could not be measured");
        }
        return said.toString(StandardCharsets.UTF_8).strip();
    }

    private static Session session(int tracks, Path folder) throws Exception {
        NoiseSession made = new NoiseSession(folder, SECONDS, SampleEncoding.PCM_16);
        for (int t = 0; t < tracks; t++) {
            Strip strip = Strip.unity(Output.to(NoiseSession.MAIN)).withTrimDb(-20);
            if (t == 0) {
                made.addTrack(strip);
            } else {
                made.addTrackLike(0, strip);
            }
        }
        List<Insert> inserts = IntStream.range(0, INSERTS)
                .mapToObj(i -> Insert.of(new SlotId("i" + i), Equaliser.KIND))
                .toList();
        Session session = made.whole().withStrip(RIDDEN, strip -> strip.withInserts(inserts));
        SplittableRandom random = new SplittableRandom(1);
        for (ControlId id : Controls.of(session, RIDDEN).stream().limit(CURVES).toList()) {
            session = Controls.with(session, id, Ride.of(new Curve(points(Controls.control(session, id), random))));
        }
        return session;
    }

    private static List<CurvePoint> points(Control control, SplittableRandom random) {
        return IntStream.range(0, POINTS)
                .mapToObj(i -> new CurvePoint(
                        (long) i * SECONDS * RATE / POINTS,
                        random.nextDouble(control.least(), control.most()),
                        CurvePoint.Shape.LINE))
                .toList();
    }
}
