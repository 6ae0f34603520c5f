package waterwheel.core.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import com.sun.management.ThreadMXBean;
import java.lang.management.ManagementFactory;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.function.DoubleFunction;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.Parameter;
import waterwheel.core.inserts.Processor;
import waterwheel.core.inserts.ProcessorKind;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.processing.Equaliser;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Output;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.Vca;
import waterwheel.core.testing.Renders;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.work.Team;

/** A plan that plays comes to other values without being made anew. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class MovingValuesTest {
    private static final int RATE = 48_000;
    private static final int BLOCK = 256;
    private static final ChannelId ONE = Sessions.id("one");
    private static final ChannelId TWO = Sessions.id("two");

    @TempDir
    Path folder;

    private Session session(float[]... one) throws Exception {
        return new Sessions(folder)
                .track("one", "bus", one)
                .track("two", "main", Signals.noise(0.2, one[0].length, 9))
                .bus("bus", "main")
                .bus("return", "main")
                .build()
                .withStrip(ONE, s -> s.withSends(List.of(Send.toBus(Sessions.id("return"), -6))))
                .withStrip(TWO, s -> s.withFaderDb(-20))
                .withVcas(List.of(new Vca(Sessions.id("v"), "v", -3, false, List.of(ONE), List.of())));
    }

    /** Plays a session from the beginning and has it come to others at some blocks; returns what is heard. */
    private float[][] play(Session first, int frames, DoubleFunction<Session> later, int everyBlocks) throws Exception {
        float[][] out = new float[2][frames];
        Plan plan = PlanCompiler.forPlayback(first, LiveLoops.NONE);
        try (Media media = Media.open(first, folder)) {
            PlanRun run = PlanRun.ofAll(plan, media, Team.alone(), BLOCK);
            run.ready();
            for (int at = 0, block = 0; at + BLOCK <= frames; at += BLOCK, block++) {
                if (block > 0 && block % everyBlocks == 0) {
                    Plan newer = PlanCompiler.forPlayback(later.apply((double) at / RATE), LiveLoops.NONE);
                    assertThat(plan.sameShape(newer)).isTrue();
                    run.take(run.values(newer));
                }
                run.process(at, BLOCK);
                for (int p = 0; p < 2; p++) {
                    System.arraycopy(run.signal(plan.monitor())[p], 0, out[p], at, BLOCK);
                }
            }
        }
        return out;
    }

    @Test
    void gains_arrive_to_the_last_bit_where_the_new_session_would_be() throws Exception {
        Session before = session(Signals.noise(0.3, RATE, 1), Signals.noise(0.3, RATE, 2));
        Session after = before.withStrip(ONE, s -> s.withTrimDb(3)
                        .withFaderDb(-7)
                        .withPlacement(s.placement().withPosition(0.4)))
                .withStrip(ONE, s -> s.withSends(List.of(s.sends().getFirst().withLevelDb(-2))))
                .withStrip(TWO, s -> s.withMuted(true))
                .withVcas(List.of(new Vca(Sessions.id("v"), "v", 1, false, List.of(ONE), List.of())));
        float[][] moved = play(before, RATE, seconds -> after, 20);
        float[][] wanted = new Renders(folder).mix(after);
        // From block 20 on it moves for 960 frames; then nothing of before is left.
        int arrived = 20 * BLOCK + 960;
        for (int p = 0; p < 2; p++) {
            for (int i = arrived; i < RATE - BLOCK; i++) {
                assertThat(moved[p][i]).as("side %d, frame %d", p, i).isEqualTo(wanted[p][i]);
            }
        }
    }

    @Test
    void a_gain_moves_in_a_straight_line() throws Exception {
        float[] steady = new float[RATE];
        Arrays.fill(steady, 0.5f);
        Session before =
                new Sessions(folder).track("one", "main", steady, steady).build();
        Session after = before.withStrip(ONE, s -> s.withFaderDb(Double.NEGATIVE_INFINITY));
        float[][] moved = play(before, RATE / 2, seconds -> after, 20);
        for (int i = 0; i < RATE / 2 - BLOCK; i++) {
            double way = Math.clamp((i - 20.0 * BLOCK) / 960, 0, 1);
            assertThat((double) moved[0][i]).isCloseTo(0.5 * (1 - way), within(1e-6));
        }
    }

    /** Knobs of all kinds that turn for ten seconds, as fast as a hand: what is not the tone stays far below it. */
    @Test
    void turning_for_ten_seconds_makes_no_click() throws Exception {
        int frames = 10 * RATE;
        float[] tone = Signals.sine(1_000, -6, RATE, 10);
        Session before = session(tone, tone);
        DoubleFunction<Session> turned = seconds -> {
            double sweep = Math.sin(2 * Math.PI * 0.5 * seconds);
            Processor equaliser = Processor.usual(Equaliser.KIND)
                    .with("bell1Hz", 1_000 * Math.pow(2, sweep))
                    .with("bell1Db", 9 + 3 * sweep)
                    .with("lowShelfDb", 6 * sweep);
            return before.withStrip(ONE, s -> s.withFaderDb(-6 + 6 * sweep)
                    .withPlacement(s.placement().withPosition(0.8 * sweep))
                    .withInserts(
                            List.of(new Insert(new SlotId("eq"), equaliser, false, sweep, -sweep, 0.9 + 0.1 * sweep))));
        };
        Session begins = turned.apply(0).withStrip(TWO, s -> s.withMuted(true));
        float[][] out =
                play(begins, frames, seconds -> turned.apply(seconds).withStrip(TWO, s -> s.withMuted(true)), 3);
        // A click is wide: above 5 kHz a tone of 1 kHz whose level moves slowly has nothing.
        for (int p = 0; p < 2; p++) {
            assertThat(Signals.peakAboveDb(out[p], RATE, 5_000, RATE / 10)).isLessThan(-90);
        }
    }

    private static Insert insert(ProcessorKind kind, double part) {
        Processor settings = Processor.usual(kind);
        for (Parameter parameter : kind.parameters()) {
            if (!parameter.built()) {
                settings = settings.with(
                        parameter.key(), parameter.least() + part * (parameter.most() - parameter.least()));
            }
        }
        return new Insert(new SlotId("1"), settings, false, 6 * part, -6 * part, part);
    }

    @ParameterizedTest
    @MethodSource("waterwheel.core.processing.Processors#kinds")
    void a_turned_knob_builds_nothing(ProcessorKind kind) throws Exception {
        ThreadMXBean threads = (ThreadMXBean) ManagementFactory.getThreadMXBean();
        Session before = session(Signals.noise(0.3, RATE, 1), Signals.noise(0.3, RATE, 2))
                .withStrip(ONE, s -> s.withInserts(List.of(insert(kind, 0.5))));
        Plan plan = PlanCompiler.forPlayback(before, LiveLoops.NONE);
        try (Media media = Media.open(before, folder)) {
            PlanRun run = PlanRun.ofAll(plan, media, Team.alone(), BLOCK);
            run.ready();
            List<PlanRun.Values> turned = new ArrayList<>();
            for (int i = 0; i < 50; i++) {
                double part = i / 50.0;
                Plan newer = PlanCompiler.forPlayback(
                        before.withStrip(ONE, s -> s.withInserts(List.of(insert(kind, part)))
                                .withFaderDb(-20 * part)),
                        LiveLoops.NONE);
                assertThat(plan.sameShape(newer)).isTrue();
                turned.add(run.values(newer));
            }
            long began = 0;
            for (int i = 0; i < 3_000; i++) {
                if (i == 2_500) {
                    began = threads.getCurrentThreadAllocatedBytes();
                }
                run.take(turned.get(i % turned.size()));
                run.process((long) i * BLOCK, BLOCK);
            }
            // One object a block would be 8,000 bytes.
            assertThat(threads.getCurrentThreadAllocatedBytes() - began).isLessThan(4_000);
        }
    }

    @Test
    void what_is_patched_or_built_differently_is_another_shape() throws Exception {
        Session before = session(Signals.noise(0.3, RATE, 1), Signals.noise(0.3, RATE, 2))
                .withStrip(ONE, s -> s.withInserts(List.of(insert(Equaliser.KIND, 0.5))));
        Plan plan = PlanCompiler.forPlayback(before, LiveLoops.NONE);
        List<Session> others = List.of(
                before.withStrip(ONE, s -> s.withInserts(List.of())),
                before.withStrip(ONE, s -> s.withSends(List.of())),
                before.withStrip(ONE, s -> s.withOutput(Output.to(Sessions.MAIN))),
                before.withStrip(
                        ONE,
                        s -> s.withInserts(List.of(s.inserts()
                                .getFirst()
                                .withProcessor(
                                        s.inserts().getFirst().processor().with("highPassSlope", 2))))));
        for (Session other : others) {
            assertThat(plan.sameShape(PlanCompiler.forPlayback(other, LiveLoops.NONE)))
                    .isFalse();
        }
        List<Session> same = List.of(
                before.withStrip(ONE, s -> s.withMuted(true)),
                before.withStrip(ONE, s -> s.withSoloed(true)),
                before.withStrip(ONE, s -> s.withFaderDb(Double.NEGATIVE_INFINITY)),
                before.withStrip(ONE, s -> s.withPlacement(s.placement().withWidth(0.3))));
        for (Session other : same) {
            assertThat(plan.sameShape(PlanCompiler.forPlayback(other, LiveLoops.NONE)))
                    .isTrue();
        }
    }
}
