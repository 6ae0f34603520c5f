package waterwheel.core.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.SplittableRandom;
import java.util.TreeSet;
import java.util.function.LongToDoubleFunction;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;
import waterwheel.core.edit.GroupEdits;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.Parameter;
import waterwheel.core.inserts.Processor;
import waterwheel.core.inserts.ProcessorKind;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.processing.Equaliser;
import waterwheel.core.processing.Limiter;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.Ride;
import waterwheel.core.rides.Rides;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Placement;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Vca;
import waterwheel.core.testing.Renders;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.work.Team;

/** Curves against plain arithmetic, frame by frame. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class RidesTest {
    private static final int RATE = 48_000;
    private static final int FRAMES = 30_000;
    /** -120 dB. */
    private static final double NULL = 1e-6;

    private static final List<CurvePoint.Shape> SHAPES = List.of(CurvePoint.Shape.values());
    private static final ChannelId ONE = Sessions.id("one");

    @TempDir
    Path folder;

    private static CurvePoint line(long frame, double value) {
        return new CurvePoint(frame, value, CurvePoint.Shape.LINE);
    }

    private static CurvePoint hold(long frame, double value) {
        return new CurvePoint(frame, value, CurvePoint.Shape.HOLD);
    }

    private static CurvePoint smooth(long frame, double value) {
        return new CurvePoint(frame, value, CurvePoint.Shape.SMOOTH);
    }

    private static Curve curve(CurvePoint... points) {
        return new Curve(List.of(points));
    }

    /** A curve's value by the definition of its segments; at its own points that of the one before, if wanted. */
    private static double value(Curve curve, long frame, boolean before) {
        List<CurvePoint> points = curve.points();
        if (frame < points.getFirst().frame()
                || (before && frame == points.getFirst().frame())) {
            return points.getFirst().value();
        }
        for (int i = 0; i + 1 < points.size(); i++) {
            CurvePoint a = points.get(i);
            CurvePoint b = points.get(i + 1);
            boolean within = before ? frame > a.frame() && frame <= b.frame() : frame >= a.frame() && frame < b.frame();
            if (within) {
                double part = (double) (frame - a.frame()) / (b.frame() - a.frame());
                return switch (a.shape()) {
                    case HOLD -> a.value();
                    case LINE -> a.value() + part * (b.value() - a.value());
                    case SMOOTH -> a.value() + (b.value() - a.value()) * (0.5 - 0.5 * Math.cos(Math.PI * part));
                };
            }
        }
        return points.getLast().value();
    }

    /** What is read at a frame, and what is come to from before it. */
    private record Reading(LongToDoubleFunction at, LongToDoubleFunction before) {}

    /** The factor at a frame as it is defined: straight between control points, jumps crossing over in 240 frames. */
    private static double[] factors(List<Curve> curves, Reading reading) {
        TreeSet<Long> own = new TreeSet<>();
        curves.forEach(curve -> curve.points().forEach(point -> own.add(point.frame())));
        double[] factors = new double[FRAMES];
        double jumpFrom = 0;
        long jumpAt = Long.MIN_VALUE / 2;
        for (int n = 0; n < FRAMES; n++) {
            if (own.contains((long) n)
                    && reading.at().applyAsDouble(n) != reading.before().applyAsDouble(n)) {
                double target = reading.before().applyAsDouble(n);
                jumpFrom = n - jumpAt < 240 ? jumpFrom + (n - jumpAt) / 240.0 * (target - jumpFrom) : target;
                jumpAt = n;
            }
            Long lastOwn = own.floor((long) n);
            Long nextOwn = own.higher((long) n);
            long begin = Math.max(n / 32 * 32L, lastOwn == null ? 0 : lastOwn);
            long end = Math.min(n / 32 * 32L + 32, nextOwn == null ? Long.MAX_VALUE : nextOwn);
            double from = reading.at().applyAsDouble(begin);
            double to = reading.before().applyAsDouble(end);
            double straight = from + (to - from) * (n - begin) / (end - begin);
            factors[n] = n - jumpAt < 240 ? jumpFrom + (n - jumpAt) / 240.0 * (straight - jumpFrom) : straight;
        }
        return factors;
    }

    private static double toFactor(double db) {
        return db <= -90 ? 0 : Math.pow(10, db / 20);
    }

    private static Reading level(double stillDb, Curve... curves) {
        return new Reading(
                n -> toFactor(stillDb
                        + Arrays.stream(curves)
                                .mapToDouble(c -> value(c, n, false))
                                .sum()),
                n -> toFactor(stillDb
                        + Arrays.stream(curves)
                                .mapToDouble(c -> value(c, n, true))
                                .sum()));
    }

    private Session session(float[]... planes) throws Exception {
        return new Sessions(folder)
                .track("one", "main", planes)
                .bus("bus", "main")
                .build();
    }

    private static Session ridden(Session session, String key, Ride ride) {
        return session.withStrip(ONE, s -> s.withRides(s.rides().with(key, ride)));
    }

    private static final Curve FADES = curve(
            line(1_000, -6),
            smooth(7_013, 3),
            hold(9_001, -20),
            hold(9_100, 0),
            line(15_000, -8),
            line(20_000, -100),
            line(25_000, 2));

    @Test
    void a_fader_with_offsets_and_VCAs_is_the_sum_in_dB_made_straight() throws Exception {
        float[] left = Signals.noise(0.5, FRAMES, 1);
        float[] right = Signals.noise(0.5, FRAMES, 2);
        Curve offsets = curve(line(0, 0), line(12_345, -3), hold(16_000, -1));
        Curve vca = curve(smooth(5_000, 0), line(21_111, -7));
        Session session = ridden(session(left, right), "faderDb", new Ride(FADES, 1.5, offsets, false))
                .withVcas(List.of(
                        new Vca(Sessions.id("v"), "v", -99, false, List.of(ONE), List.of())
                                .withRides(Rides.NONE.with("faderDb", Ride.of(vca))),
                        new Vca(Sessions.id("w"), "w", -2, false, List.of(ONE), List.of())));
        float[][] mix = new Renders(folder).mix(session);
        double[] factors = factors(List.of(FADES, offsets, vca), level(1.5 - 2, FADES, offsets, vca));
        for (int n = 0; n < FRAMES; n++) {
            assertThat((double) mix[0][n]).as("frame %d", n).isCloseTo(factors[n] * left[n], within(NULL));
            assertThat((double) mix[1][n]).as("frame %d", n).isCloseTo(factors[n] * right[n], within(NULL));
        }
    }

    @Test
    void a_trim_keeps_its_polarity_and_comes_before_the_inserts() throws Exception {
        float[] mono = Signals.noise(0.3, FRAMES, 1);
        Session session = ridden(session(mono), "trimDb", Ride.of(FADES)).withStrip(ONE, s -> s.withPolarityInverted(
                        true)
                .withPlacement(Placement.CENTRE.withPosition(-1))
                .withInserts(List.of(Insert.of(new SlotId("1"), Equaliser.KIND).withOutputDb(-6))));
        float[][] mix = new Renders(folder).mix(session);
        double[] factors = factors(List.of(FADES), level(0, FADES));
        for (int n = 0; n < FRAMES; n++) {
            double wanted = -factors[n] * mono[n] * Math.pow(10, -6 / 20.0);
            assertThat((double) mix[0][n]).as("frame %d", n).isCloseTo(wanted, within(NULL));
        }
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 2})
    void a_position_moves_every_gain_of_the_law(int planes) throws Exception {
        float[] left = Signals.noise(0.5, FRAMES, 1);
        float[] right = Signals.noise(0.5, FRAMES, 2);
        Curve moves = curve(line(0, -1), smooth(8_000, 1), hold(11_111, -0.5), line(11_300, 0.9), line(29_000, -0.2));
        Session session = ridden(planes == 1 ? session(left) : session(left, right), "position", Ride.of(moves));
        float[][] mix = new Renders(folder).mix(session);
        double[][][] gains = new double[2][planes][];
        for (int to = 0; to < 2; to++) {
            for (int from = 0; from < planes; from++) {
                int side = to;
                int plane = from;
                gains[to][from] = factors(
                        List.of(moves),
                        new Reading(
                                n -> placed(value(moves, n, false), planes)[side][plane],
                                n -> placed(value(moves, n, true), planes)[side][plane]));
            }
        }
        for (int n = 0; n < FRAMES; n++) {
            for (int to = 0; to < 2; to++) {
                double wanted = gains[to][0][n] * left[n] + (planes == 2 ? gains[to][1][n] * right[n] : 0);
                assertThat((double) mix[to][n]).as("side %d, frame %d", to, n).isCloseTo(wanted, within(NULL));
            }
        }
    }

    /** The law of -3 dB: cos and sin of (p + 1) 45 degrees; a stereo channel of width 1 is two of them. */
    private static double[][] placed(double p, int planes) {
        if (planes == 1) {
            return new double[][] {{left(p)}, {left(-p)}};
        }
        double l = Math.max(-1, p - 1);
        double r = Math.min(1, p + 1);
        return new double[][] {{left(l), left(r)}, {left(-l), left(-r)}};
    }

    private static double left(double p) {
        return p >= 1 ? 0 : Math.cos((p + 1) * Math.PI / 4);
    }

    @Test
    void mutes_and_switches_cross_over_in_5_ms_and_reach_sends_too() throws Exception {
        float[] left = Signals.noise(0.5, FRAMES, 1);
        Curve mutes = curve(hold(0, 0), hold(4_000, 1), hold(10_000, 0), hold(10_100, 1), hold(20_000, 0));
        Curve on = curve(hold(0, 1), hold(23_000, 0), hold(26_000, 1));
        Curve send = curve(line(0, -20), line(FRAMES, 0));
        Session session = ridden(session(left, left), "muted", Ride.of(mutes))
                .withStrip(
                        ONE,
                        s -> s.withSends(List.of(Send.toBus(Sessions.id("bus"), 3)
                                .withOn(false)
                                .withRides(Rides.NONE.with("on", Ride.of(on)).with("levelDb", Ride.of(send))))));
        float[][] mix = new Renders(folder).mix(session);
        double[] open =
                factors(List.of(mutes), new Reading(n -> 1 - value(mutes, n, false), n -> 1 - value(mutes, n, true)));
        double[] sending = factors(List.of(send), level(0, send));
        double[] switched = factors(List.of(on), new Reading(n -> value(on, n, false), n -> value(on, n, true)));
        for (int n = 0; n < FRAMES; n++) {
            double wanted = open[n] * left[n] * (1 + sending[n] * switched[n]);
            assertThat((double) mix[0][n]).as("frame %d", n).isCloseTo(wanted, within(NULL));
        }
    }

    /** A curve follows the song and not the engine: behind a limiter's look-ahead it is where it was. */
    @Test
    void a_curve_follows_the_songs_time_whatever_is_late() throws Exception {
        float[] quiet = Signals.noise(0.05, FRAMES, 1);
        Session session = ridden(session(quiet, quiet), "faderDb", Ride.of(FADES));
        Session late = session.withStrip(ONE, s -> s.withInserts(List.of(Insert.of(new SlotId("1"), Limiter.KIND))));
        float[][] plain = new Renders(folder).mix(session);
        float[][] behind = new Renders(folder).mix(late);
        for (int n = 0; n < FRAMES - 500; n++) {
            assertThat(behind[0][n]).as("frame %d", n).isCloseTo(plain[0][n], within(1e-7f));
        }
    }

    private static Insert everything(ProcessorKind kind, SplittableRandom random) {
        Processor settings = Processor.usual(kind);
        Rides rides = Rides.NONE
                .with("bypassed", Ride.of(curve(hold(0, 0), hold(5_003, 1), hold(8_000, 0))))
                .with("inputDb", Ride.of(curve(line(0, 0), line(20_000, -9))))
                .with("mix", Ride.of(curve(line(9_000, 1), line(12_000, 0.3))));
        for (Parameter parameter : kind.parameters()) {
            if (!parameter.built()) {
                List<CurvePoint> points = new ArrayList<>();
                for (long at = random.nextInt(3_000); at < FRAMES; at += 1 + random.nextInt(6_000)) {
                    double value = parameter.least() + random.nextDouble() * (parameter.most() - parameter.least());
                    CurvePoint.Shape shape = SHAPES.get(random.nextInt(3));
                    points.add(new CurvePoint(at, value, shape));
                }
                rides = rides.with(parameter.key(), Ride.of(new Curve(points)));
            }
        }
        return new Insert(new SlotId("1"), settings, false, 0, 0, 1).withRides(rides);
    }

    @ParameterizedTest
    @MethodSource("waterwheel.core.processing.Processors#kinds")
    void block_sizes_and_threads_change_no_bit(ProcessorKind kind) throws Exception {
        Insert insert = everything(kind, new SplittableRandom(kind.key().hashCode()));
        Session session = ridden(
                        session(Signals.noise(0.3, FRAMES, 1), Signals.noise(0.3, FRAMES, 2)),
                        "faderDb",
                        Ride.of(FADES))
                .withStrip(ONE, s -> s.withInserts(List.of(insert))
                        .withRides(s.rides()
                                .with("position", Ride.of(curve(line(0, -1), line(20_000, 1))))
                                .with("muted", Ride.of(curve(hold(0, 1), hold(3_000, 0))))));
        float[][] whole = new Renders(folder, 1, 1_024).mix(session);
        for (int threads = 1; threads <= 2; threads++) {
            for (int block : new int[] {64, 480, 1_024}) {
                float[][] other = new Renders(folder, threads, block).mix(session);
                assertThat(other[0])
                        .as("%d threads, blocks of %d", threads, block)
                        .isEqualTo(whole[0]);
                assertThat(other[1])
                        .as("%d threads, blocks of %d", threads, block)
                        .isEqualTo(whole[1]);
            }
        }
        for (float sample : whole[0]) {
            assertThat(Float.isFinite(sample)).isTrue();
        }
    }

    @Test
    void a_bypass_passes_the_signal_as_it_came_in_time() throws Exception {
        float[] noise = Signals.noise(0.9, FRAMES, 1);
        Curve bypass = curve(hold(0, 0), hold(10_000, 1));
        Session session = session(noise, noise)
                .withStrip(
                        ONE,
                        s -> s.withInserts(List.of(Insert.of(new SlotId("1"), Limiter.KIND)
                                .withInputDb(12)
                                .withRides(Rides.NONE.with("bypassed", Ride.of(bypass))))));
        float[][] mix = new Renders(folder).mix(session);
        for (int n = 10_240; n < FRAMES - 500; n++) {
            assertThat(mix[0][n]).as("frame %d", n).isCloseTo(noise[n], within(1e-6f));
        }
        assertThat(mix[0][5_000]).isNotCloseTo(noise[5_000], within(1e-3f));
    }

    /** A tone through a bell that sweeps over two octaves in a second: what is far from the tone is not there. */
    @Test
    void a_bell_that_sweeps_makes_no_noise() throws Exception {
        float[] tone = Signals.sine(1_000, -6, RATE, 1);
        Curve sweep = curve(line(0, 500), line(RATE, 2_000));
        Processor bell = Processor.usual(Equaliser.KIND).with("bell1Db", 12).with("bell1Q", 2);
        Session session = session(tone, tone)
                .withStrip(
                        ONE,
                        s -> s.withInserts(List.of(Insert.of(new SlotId("1"), Equaliser.KIND)
                                .withProcessor(bell)
                                .withRides(Rides.NONE.with("bell1Hz", Ride.of(sweep))))));
        float[][] mix = new Renders(folder).mix(session);
        // The tone's modulation by a second's sweep lies within a few Hz of it.
        assertThat(Signals.peakAboveDb(mix[0], RATE, 2_500, 2_000)).isLessThan(-90 - 6);
    }

    @Test
    void what_is_suspended_or_has_no_points_moves_nothing() throws Exception {
        float[] noise = Signals.noise(0.5, FRAMES, 1);
        Session plain = session(noise, noise).withStrip(ONE, s -> s.withFaderDb(-3));
        float[][] still = new Renders(folder).mix(plain);
        float[][] suspended = new Renders(folder)
                .mix(ridden(plain, Strip.FADER.key(), Ride.of(FADES).withSuspended(true)));
        assertThat(suspended[0]).isEqualTo(still[0]);
    }

    /** A playing plan goes over to another curve without being built anew. */
    @Test
    void a_point_that_is_moved_while_playing_moves_the_gain() throws Exception {
        float[] steady = new float[FRAMES];
        Arrays.fill(steady, 0.5f);
        Session before = ridden(session(steady, steady), "faderDb", Ride.of(curve(line(0, 0))));
        Session after = ridden(before, "faderDb", Ride.of(curve(line(0, -20))));
        Plan plan = PlanCompiler.forPlayback(before, LiveLoops.NONE);
        Plan newer = PlanCompiler.forPlayback(after, LiveLoops.NONE);
        assertThat(plan.sameShape(newer)).isTrue();
        float[] out = new float[FRAMES];
        try (Media media = Media.open(before, folder)) {
            PlanRun run = PlanRun.ofAll(plan, media, Team.alone(), 256);
            run.ready();
            for (int at = 0; at + 256 <= FRAMES; at += 256) {
                if (at == 2_560) {
                    run.take(run.values(newer));
                }
                run.process(at, 256);
                System.arraycopy(run.signal(plan.monitor())[0], 0, out, at, 256);
            }
        }
        for (int n = 1; n < FRAMES - 256; n++) {
            double way = Math.clamp((n - 2_560) / 960.0, 0, 1);
            assertThat((double) out[n]).as("frame %d", n).isCloseTo(0.5 * (1 - 0.9 * way), within(1e-6));
        }
    }

    /** Folding adds a VCA's curve to its members' offsets: the mix stays within 0.01 dB, frame by frame. */
    @Test
    void a_VCA_with_a_curve_folds_into_its_members() throws Exception {
        float[] steady = new float[FRAMES];
        Arrays.fill(steady, 0.5f);
        Curve vca = curve(smooth(1_000, 0), line(12_000, -15), hold(18_000, -3), hold(24_000, -9));
        Session session = ridden(
                        new Sessions(folder)
                                .track("one", "main", steady, steady)
                                .track("two", "main", steady, steady)
                                .build(),
                        "faderDb",
                        new Ride(curve(line(0, -3), line(20_000, -9)), 1, Curve.NONE, false))
                .withVcas(List.of(new Vca(Sessions.id("v"), "v", 4, false, List.of(ONE, Sessions.id("two")), List.of())
                        .withRides(Rides.NONE.with("faderDb", new Ride(vca, -1, Curve.NONE, false)))));
        Session folded = GroupEdits.foldVca(session.vcas().getFirst()).apply(session);
        assertThat(folded.vcas().getFirst().rides().isNone()).isTrue();
        assertThat(folded.vcas().getFirst().faderDb()).isZero();
        float[][] before = new Renders(folder).mix(session);
        float[][] after = new Renders(folder).mix(folded);
        for (int n = 0; n < FRAMES; n++) {
            // 0.01 dB is a factor of 1.00115; a jump of a sum begins within a frame of where it was.
            double slack = 0.00115 * before[0][n] + 0.003;
            assertThat(after[0][n]).as("frame %d", n).isCloseTo(before[0][n], within((float) slack));
        }
        for (int n : new int[] {500, 5_000, 11_000, 15_000, 19_000, 23_000, 29_000}) {
            assertThat(after[0][n]).as("frame %d", n).isCloseTo(before[0][n], within(0.00115f * before[0][n]));
        }
    }
}
