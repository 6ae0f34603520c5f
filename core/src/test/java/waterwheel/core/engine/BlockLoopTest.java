package waterwheel.core.engine;

import static org.assertj.core.api.Assertions.assertThat;

import com.sun.management.ThreadMXBean;
import java.lang.management.ManagementFactory;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.ProcessorKind;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.metering.Detail;
import waterwheel.core.metering.SeriesMeter;
import waterwheel.core.processing.Compressor;
import waterwheel.core.processing.Limiter;
import waterwheel.core.processing.Processors;
import waterwheel.core.processing.Reverb;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.session.Channel;
import waterwheel.core.session.Clip;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.work.Team;

/** The block loop with everything in it: every kind of insert, keys, sends, clips with curves, taps and meters. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class BlockLoopTest {
    private static final int FRAMES = 48_000;
    private static final int BLOCK = 256;
    private static final int WARM_UP = 3_000;
    private static final int MEASURED = 1_000;
    private static final long METERED = (long) (WARM_UP + MEASURED) * BLOCK;

    @TempDir
    Path folder;

    private static Insert insert(ProcessorKind kind) {
        return Insert.of(new SlotId(kind.key()), kind).withMix(0.7);
    }

    private static ProcessorKind kind(String key) {
        return Processors.kinds().stream()
                .filter(kind -> kind.key().equals(key))
                .findFirst()
                .orElseThrow();
    }

    private Session everything() throws Exception {
        Sessions made = new Sessions(folder);
        for (ProcessorKind kind : Processors.kinds()) {
            made.track("t" + kind.key(), "bus", Signals.noise(0.3, FRAMES, 1), Signals.noise(0.3, FRAMES, 2));
        }
        Session session = made.track("mono", "bus", Signals.noise(0.3, FRAMES, 3))
                .bus("bus", "main")
                .bus("return", "main")
                .build();
        List<Channel> channels = new ArrayList<>();
        for (Channel channel : session.channels()) {
            String name = channel.id().value();
            channels.add(
                    name.startsWith("t")
                            ? channel.withStrip(channel.strip().withInserts(List.of(insert(kind(name.substring(1))))))
                            : channel);
        }
        Curve curve = new Curve(List.of(
                new CurvePoint(0, 3, CurvePoint.Shape.LINE), new CurvePoint(40_000, -9, CurvePoint.Shape.SMOOTH)));
        return session.withChannels(channels)
                .withStrip(
                        Sessions.id("mono"), s -> s.withInserts(List.of(insert(Compressor.KIND), insert(Limiter.KIND)))
                                .withSends(List.of(
                                        Send.toBus(Sessions.id("return"), -6),
                                        Send.toKey(Sessions.id("tgate"), new SlotId("gate")))))
                .withChannel(Sessions.id("mono"), c -> ((Track) c)
                        .withClips(List.of(
                                new Clip(((Track) c).clips().getFirst().source(), 0, 0, 30_000, 0)
                                        .withFades(100, 9_000)
                                        .withGainCurve(curve),
                                new Clip(((Track) c).clips().getFirst().source(), 20_000, 500, 28_000, -3)
                                        .withFades(9_000, 10))))
                .withStrip(Sessions.id("return"), s -> s.withInserts(List.of(insert(Reverb.KIND))));
    }

    @Test
    void it_allocates_nothing() throws Exception {
        Session session = everything();
        Plan plan = PlanCompiler.compile(session);
        ThreadMXBean threads = (ThreadMXBean) ManagementFactory.getThreadMXBean();
        try (Media media = Media.open(session, folder)) {
            PlanRun run = PlanRun.ofAll(plan, media, Team.alone(), BLOCK);
            for (int i = 0; i < plan.signals().size(); i++) {
                int planes = plan.signals().get(i).planes();
                if (plan.heard().get(i)) {
                    run.meter(i, new SeriesMeter(48_000, planes, METERED, Detail.EVERYTHING), 0, METERED);
                    PeakTap[] taps = new PeakTap[planes];
                    Arrays.setAll(taps, p -> new PeakTap());
                    run.tap(i, taps);
                    run.tapReduction(i, new PeakTap());
                }
            }
            for (int i = 0; i < WARM_UP; i++) {
                // One block is left out, so that taking the song up elsewhere is warm too.
                if (i != WARM_UP / 2) {
                    run.process((long) i * BLOCK, BLOCK);
                }
            }
            long before = threads.getCurrentThreadAllocatedBytes();
            // The first of them lies elsewhere, as after a click into the song.
            for (int i = WARM_UP + 3; i < WARM_UP + MEASURED; i++) {
                run.process((long) i * BLOCK, BLOCK);
            }
            // One object a block would be 16,000 bytes.
            assertThat(threads.getCurrentThreadAllocatedBytes() - before).isLessThan(4_000);
        }
    }
}
