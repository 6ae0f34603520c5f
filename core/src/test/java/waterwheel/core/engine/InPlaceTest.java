package waterwheel.core.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatIllegalArgumentException;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import java.util.TreeMap;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.ProcessorKind;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.processing.Compressor;
import waterwheel.core.processing.Equaliser;
import waterwheel.core.processing.Limiter;
import waterwheel.core.processing.Saturator;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.Ride;
import waterwheel.core.rides.Rides;
import waterwheel.core.session.Channel;
import waterwheel.core.session.Placement;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/** Signals that share their buffers are what they are in buffers of their own. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class InPlaceTest {
    private static final int FRAMES = 9_000;
    private static final List<ProcessorKind> KINDS =
            List.of(Equaliser.KIND, Compressor.KIND, Saturator.KIND, Limiter.KIND);

    private static final List<CurvePoint.Shape> SHAPES =
            List.of(CurvePoint.Shape.HOLD, CurvePoint.Shape.LINE, CurvePoint.Shape.SMOOTH);

    @TempDir
    Path folder;

    private Session session(SplittableRandom random) throws Exception {
        Sessions made = new Sessions(folder);
        for (int t = 0; t < 4; t++) {
            String bus = random.nextBoolean() ? "main" : "bus";
            float[] one = Signals.noise(0.3, FRAMES, random.nextInt());
            if (random.nextBoolean()) {
                made = made.track("t" + t, bus, one);
            } else {
                made = made.track("t" + t, bus, one, Signals.noise(0.3, FRAMES, random.nextInt()));
            }
        }
        Session session = made.bus("bus", "main").bus("hall", "main").build();
        for (Channel channel : List.copyOf(session.channels())) {
            session = session.withStrip(channel.id(), strip -> strip(strip, random));
        }
        return session;
    }

    private static Strip strip(Strip strip, SplittableRandom random) {
        List<Insert> inserts = new ArrayList<>();
        for (int i = 0; i < random.nextInt(3); i++) {
            Insert insert = Insert.of(new SlotId("s" + i), KINDS.get(random.nextInt(KINDS.size())))
                    .withMix(random.nextBoolean() ? 1 : 0.4)
                    .withInputDb(random.nextBoolean() ? 0 : -3);
            inserts.add(
                    random.nextInt(3) > 0 ? insert : insert.withRides(Rides.NONE.with("outputDb", wave(random, 3))));
        }
        Placement.Mode mode = random.nextBoolean() ? Placement.Mode.BALANCE : Placement.Mode.PLACE;
        Rides rides = Rides.NONE;
        if (random.nextBoolean()) {
            rides = rides.with("faderDb", wave(random, 20));
        }
        if (random.nextBoolean()) {
            rides = rides.with("position", wave(random, 0.9));
        }
        return strip.withTrimDb(random.nextBoolean() ? 0 : -2)
                .withInserts(inserts)
                .withPlacement(new Placement(0.2, 1, mode))
                .withRides(rides);
    }

    private static Ride wave(SplittableRandom random, double reach) {
        List<CurvePoint> points = new ArrayList<>();
        for (int frame = random.nextInt(900); frame < FRAMES; frame += 1 + random.nextInt(3_000)) {
            CurvePoint.Shape shape = SHAPES.get(random.nextInt(SHAPES.size()));
            points.add(new CurvePoint(frame, reach * (2 * random.nextDouble() - 1), shape));
        }
        return Ride.of(new Curve(points));
    }

    private static Map<Integer, float[][]> heard(PlanRun run, Plan plan, BitSet wanted) {
        Map<Integer, float[][]> heard = new TreeMap<>();
        wanted.stream().forEach(index -> {
            float[][] all = new float[plan.signals().get(index).planes()][FRAMES];
            heard.put(index, all);
            run.listen(index, Signals.into(all));
        });
        return heard;
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12})
    void whatever_is_listened_to_is_the_same_to_the_bit(int seed) throws Exception {
        SplittableRandom random = new SplittableRandom(seed);
        Session plain = session(random);
        Session session = random.nextBoolean()
                ? plain
                : plain.withStrip(
                        Sessions.id("t0"), strip -> strip.withSends(List.of(Send.toBus(Sessions.id("hall"), -6))));
        Plan plan = PlanCompiler.compile(session);
        BitSet wanted = new BitSet();
        wanted.set(plan.output());
        for (int i = 0; i < plan.signals().size(); i++) {
            wanted.set(i, wanted.get(i) || random.nextInt(6) == 0);
        }
        int block = 1 + random.nextInt(700);
        try (Media media = Media.open(session, folder)) {
            PlanRun apart = PlanRun.of(plan, media, Team.alone(), block, wanted);
            Map<Integer, float[][]> expected = heard(apart, plan, wanted);
            for (int at = 0; at < FRAMES; at += block) {
                apart.process(at, Math.min(block, FRAMES - at));
            }
            for (int threads = 1; threads <= 3; threads++) {
                try (Team team = new Team(threads)) {
                    PlanRun stretch = PlanRun.ofStretch(plan, media, team, block, wanted);
                    Map<Integer, float[][]> actual = heard(stretch, plan, wanted);
                    stretch.stretch(0, FRAMES, Progress.NONE);
                    expected.forEach((index, samples) -> assertThat(actual.get(index))
                            .as("%s by %d", plan.signals().get(index).id(), actual.size())
                            .isDeepEqualTo(samples));
                }
            }
        }
    }

    @Test
    void what_is_overwritten_cannot_be_listened_to() throws Exception {
        Session session = new Sessions(folder)
                .track("one", "main", Signals.noise(0.3, FRAMES, 1))
                .build()
                .withStrip(
                        Sessions.id("one"),
                        strip -> strip.withInserts(List.of(Insert.of(new SlotId("1"), Compressor.KIND))));
        Plan plan = PlanCompiler.compile(session);
        int source = plan.first(Sessions.id("one"));
        BitSet wanted = new BitSet();
        wanted.set(plan.output());
        try (Media media = Media.open(session, folder)) {
            PlanRun run = PlanRun.ofStretch(plan, media, Team.alone(), 512, wanted);
            assertThatIllegalArgumentException()
                    .isThrownBy(() -> run.listen(source, (signal, first, count) -> {}))
                    .withMessageContaining("expected: a signal that was wanted");
            wanted.set(source);
            PlanRun both = PlanRun.ofStretch(plan, media, Team.alone(), 512, wanted);
            both.listen(source, (signal, first, count) -> {});
        }
    }
}
