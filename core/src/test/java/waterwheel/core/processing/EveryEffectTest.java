package waterwheel.core.processing;

import static org.assertj.core.api.Assertions.assertThat;

import com.sun.management.ThreadMXBean;
import java.lang.management.ManagementFactory;
import java.util.Arrays;
import java.util.List;
import java.util.SplittableRandom;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.Parameter;
import waterwheel.core.inserts.Processor;
import waterwheel.core.inserts.ProcessorKind;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.testing.Signals;

/** What every processor owes, whatever it does, at settings of chance. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class EveryEffectTest {
    private static final int RATE = 48_000;
    private static final int BLOCK = 256;
    private static final int FRAMES = 9_600;
    private static final int ROUNDS = 6;

    private static final Response RESPONSE =
            Response.of(new float[][] {Signals.noise(0.2, 3_000, 1), Signals.noise(0.2, 3_000, 2)});

    private static List<ProcessorKind> silentOnes() {
        return Processors.kinds().stream()
                .filter(kind -> !Processors.of(kind).sounds())
                .toList();
    }

    private static List<ProcessorKind> ofEachSideAlone() {
        return List.of(Equaliser.KIND, Saturator.KIND, Convolution.KIND, TestTone.KIND);
    }

    private static Insert random(ProcessorKind kind, SplittableRandom random) {
        Processor made = Processor.usual(kind);
        for (Parameter parameter : kind.parameters()) {
            double value = parameter.choices().isEmpty()
                    ? parameter.least() + random.nextDouble() * (parameter.most() - parameter.least())
                    : random.nextInt(parameter.choices().size());
            made = made.with(parameter.key(), value);
        }
        return new Insert(new SlotId("1"), made, false, 0, random.nextInt(-6, 6), random.nextBoolean() ? 1 : 0.5);
    }

    private static Effect start(Insert insert, int planes) {
        return Effects.start(insert, new Site(RATE, planes, BLOCK, RESPONSE));
    }

    /** Runs signals through an effect and returns what comes out. */
    private static float[][] run(Effect effect, int block, float[]... planes) {
        return EffectRuns.run(
                effect, block, Arrays.stream(planes).map(float[]::clone).toArray(float[][]::new));
    }

    /**
     * Runs signals through an insert up to a frame, and from there on through another that goes on from the first, by way of
     * a copy that takes blocks of a frame, as one does that only remembers.
     *
     * @return what comes out from that frame on
     */
    private static float[][] rest(Insert before, Insert after, int at, float[] left, float[] right) {
        Effect first = start(before, 2);
        run(first, BLOCK, Arrays.copyOf(left, at), Arrays.copyOf(right, at));
        Effect copy = Effects.start(before, new Site(RATE, 2, 1, RESPONSE));
        copy.adopt(first);
        Effect second = start(after, 2);
        second.seek(at);
        second.adopt(copy);
        return run(second, BLOCK, Arrays.copyOfRange(left, at, FRAMES), Arrays.copyOfRange(right, at, FRAMES));
    }

    /** An insert that goes on from another at a frame gives out what it would have if it had been there before. */
    private static void assertGoesOn(Insert before, Insert after, int at, float[] left, float[] right) {
        float[][] whole = run(start(after, 2), BLOCK, left, right);
        float[][] rest = rest(before, after, at, left, right);
        for (int p = 0; p < 2; p++) {
            assertThat(Arrays.mismatch(rest[p], Arrays.copyOfRange(whole[p], at, FRAMES)))
                    .as("%s after %s, plane %d from frame %d", after, before, p, at)
                    .isEqualTo(-1);
        }
    }

    @ParameterizedTest
    @MethodSource("waterwheel.core.processing.Processors#kinds")
    void what_is_remembered_goes_on_by_way_of_a_copy(ProcessorKind kind) {
        SplittableRandom random = new SplittableRandom(5);
        float[] left = Signals.noise(0.7, FRAMES, 3);
        float[] right = Signals.noise(0.7, FRAMES, 4);
        for (int round = 0; round < ROUNDS; round++) {
            Insert insert = random(kind, random);
            assertGoesOn(insert, insert, BLOCK * random.nextInt(1, FRAMES / BLOCK), left, right);
        }
    }

    private static List<ProcessorKind> thatForgetSilence() {
        return Processors.kinds().stream()
                .filter(kind -> !Processors.of(kind).remembersSilence())
                .toList();
    }

    @ParameterizedTest
    @MethodSource("thatForgetSilence")
    void silence_is_forgotten_so_that_other_settings_go_on_from_it(ProcessorKind kind) {
        SplittableRandom random = new SplittableRandom(8);
        int at = 11 * BLOCK;
        float[] left = entering(at, 8);
        float[] right = entering(at, 9);
        for (int round = 0; round < 4 * ROUNDS; round++) {
            Insert before = random(kind, random);
            assertGoesOn(before, partly(before, random), at, left, right);
        }
    }

    /** Noise that begins at a frame. */
    private static float[] entering(int at, long seed) {
        float[] noise = Signals.noise(0.7, FRAMES, seed);
        Arrays.fill(noise, 0, at, 0);
        return noise;
    }

    /** An insert with about half of its settings changed. */
    private static Insert partly(Insert insert, SplittableRandom random) {
        Insert other = random(insert.processor().kind(), random);
        Processor made = insert.processor();
        for (Parameter parameter : made.kind().parameters()) {
            if (random.nextBoolean()) {
                made = made.with(parameter.key(), other.processor().value(parameter.key()));
            }
        }
        return new Insert(insert.id(), made, false, 0, other.outputDb(), other.mix());
    }

    private static List<ProcessorKind> withPlanesApart() {
        return Processors.kinds().stream()
                .filter(kind -> Processors.of(kind).planesApart())
                .toList();
    }

    @ParameterizedTest
    @MethodSource("withPlanesApart")
    void planes_that_threads_may_share_sound_the_same_one_by_one(ProcessorKind kind) {
        SplittableRandom random = new SplittableRandom(6);
        float[][] signal = {Signals.noise(0.7, FRAMES, 5), Signals.noise(0.7, FRAMES, 6)};
        for (int round = 0; round < ROUNDS; round++) {
            Insert insert = random(kind, random);
            float[][] together = run(start(insert, 2), BLOCK, signal);
            for (int p = 0; p < 2; p++) {
                Effect alone = Effects.start(insert, new Site(RATE, 2, BLOCK, RESPONSE).plane(p));
                assertThat(Arrays.mismatch(run(alone, BLOCK, signal[p])[0], together[p]))
                        .as("%s, plane %d", insert, p)
                        .isEqualTo(-1);
            }
        }
    }

    @ParameterizedTest
    @MethodSource("silentOnes")
    void silence_in_is_silence_out(ProcessorKind kind) {
        SplittableRandom random = new SplittableRandom(1);
        for (int round = 0; round < ROUNDS; round++) {
            float[][] out = run(start(random(kind, random), 2), BLOCK, new float[FRAMES], new float[FRAMES]);
            for (float[] plane : out) {
                for (float sample : plane) {
                    assertThat(sample).isZero();
                }
            }
        }
    }

    @ParameterizedTest
    @MethodSource("waterwheel.core.processing.Processors#kinds")
    void block_size_does_not_matter(ProcessorKind kind) {
        SplittableRandom random = new SplittableRandom(2);
        for (int round = 0; round < ROUNDS; round++) {
            Insert insert = random(kind, random);
            float[] left = Signals.noise(0.5, FRAMES, 2L * round);
            float[] right = Signals.noise(0.5, FRAMES, 2L * round + 1);
            float[][] whole = run(start(insert, 2), BLOCK, left, right);
            for (int block : new int[] {1, 31, 64, 255}) {
                float[][] pieces = run(start(insert, 2), block, left, right);
                for (int p = 0; p < 2; p++) {
                    for (int i = 0; i < FRAMES; i++) {
                        float most = Math.max(Math.ulp(whole[p][i]), 1e-7f);
                        assertThat(Math.abs(pieces[p][i] - whole[p][i]))
                                .as("%s in blocks of %d, side %d, frame %d", insert, block, p, i)
                                .isLessThanOrEqualTo(most);
                    }
                }
            }
        }
    }

    /** What turns both sides down as one hears both, and so do crossed echoes, a network and what mixes middle and side. */
    @ParameterizedTest
    @MethodSource("ofEachSideAlone")
    void sides_are_independent_where_nothing_joins_them(ProcessorKind kind) {
        SplittableRandom random = new SplittableRandom(3);
        for (int round = 0; round < ROUNDS; round++) {
            Insert insert = random(kind, random);
            float[] left = Signals.noise(0.5, FRAMES, 2L * round);
            float[][] one = run(start(insert, 2), BLOCK, left, Signals.noise(0.5, FRAMES, 100 + round));
            float[][] other = run(start(insert, 2), BLOCK, left, new float[FRAMES]);
            assertThat(one[0]).as("%s", insert).isEqualTo(other[0]);
        }
    }

    @ParameterizedTest
    @MethodSource("waterwheel.core.processing.Processors#kinds")
    void one_that_was_reset_is_as_good_as_new(ProcessorKind kind) {
        SplittableRandom random = new SplittableRandom(4);
        for (int round = 0; round < ROUNDS; round++) {
            Insert insert = random(kind, random);
            float[] left = Signals.noise(0.5, FRAMES, 2L * round);
            float[] right = Signals.noise(0.5, FRAMES, 2L * round + 1);
            Effect used = start(insert, 2);
            run(used, BLOCK, right, left);
            used.reset();
            used.seek(0);
            float[][] again = run(used, BLOCK, left, right);
            float[][] fresh = run(start(insert, 2), BLOCK, left, right);
            assertThat(again[0]).as("%s", insert).isEqualTo(fresh[0]);
            assertThat(again[1]).as("%s", insert).isEqualTo(fresh[1]);
        }
    }

    @ParameterizedTest
    @MethodSource("waterwheel.core.processing.Processors#kinds")
    void what_comes_out_is_always_a_number(ProcessorKind kind) {
        SplittableRandom random = new SplittableRandom(5);
        for (int round = 0; round < ROUNDS; round++) {
            Insert insert = random(kind, random);
            float[] hot = Signals.noise(60, FRAMES, round);
            Arrays.fill(hot, 1_000, 1_100, 1e6f);
            for (float[] plane : run(start(insert, 2), BLOCK, hot, hot.clone())) {
                for (float sample : plane) {
                    assertThat(Float.isFinite(sample)).as("%s", insert).isTrue();
                }
            }
        }
    }

    @ParameterizedTest
    @MethodSource("waterwheel.core.processing.Processors#kinds")
    void processing_allocates_nothing(ProcessorKind kind) {
        ThreadMXBean threads = (ThreadMXBean) ManagementFactory.getThreadMXBean();
        Effect effect = start(random(kind, new SplittableRandom(6)), 2);
        float[][] block = {Signals.noise(0.5, BLOCK, 1), Signals.noise(0.5, BLOCK, 2)};
        for (int i = 0; i < 3_000; i++) {
            effect.process(block, null, BLOCK);
        }
        long before = threads.getCurrentThreadAllocatedBytes();
        for (int i = 0; i < 3_000; i++) {
            effect.process(block, null, BLOCK);
        }
        assertThat(threads.getCurrentThreadAllocatedBytes() - before).isLessThan(2_000);
    }

    /** Runs signals through an effect that moves every 32 frames, as under a curve, in blocks of any size. */
    private static float[][] runMoving(Effect effect, int block, double[] from, double[] to, float[]... planes) {
        int grid = 32;
        double[] values = from.clone();
        float[][] out = new float[planes.length][planes[0].length];
        float[][] part = new float[planes.length][BLOCK];
        int total = out[0].length;
        for (int at = 0; at < total; ) {
            int into = at % grid;
            if (into == 0) {
                double way = Math.min(1, 2.0 * (at + grid) / total);
                for (int i = 0; i < values.length; i++) {
                    values[i] = from[i] + way * (to[i] - from[i]);
                }
                effect.move(values, grid);
            }
            int count = Math.min(Math.min(block, grid - into), total - at);
            for (int p = 0; p < planes.length; p++) {
                System.arraycopy(planes[p], at, part[p], 0, count);
            }
            effect.process(part, null, count);
            for (int p = 0; p < planes.length; p++) {
                System.arraycopy(part[p], 0, out[p], at, count);
            }
            at += count;
        }
        return out;
    }

    /** Other settings that can be reached without building the processor anew. */
    private static double[] elsewhere(Processor settings, SplittableRandom random) {
        double[] values = settings.array();
        for (int i = 0; i < values.length; i++) {
            Parameter parameter = settings.kind().parameters().get(i);
            if (!parameter.built()) {
                values[i] = parameter.least() + random.nextDouble() * (parameter.most() - parameter.least());
            }
        }
        return values;
    }

    @ParameterizedTest
    @MethodSource("waterwheel.core.processing.Processors#kinds")
    void moving_under_a_curve_does_not_hang_on_the_block_size(ProcessorKind kind) {
        SplittableRandom random = new SplittableRandom(7);
        for (int round = 0; round < ROUNDS; round++) {
            Insert insert = random(kind, random);
            double[] from = insert.processor().array();
            double[] to = elsewhere(insert.processor(), random);
            float[] left = Signals.noise(0.5, FRAMES, 2L * round);
            float[] right = Signals.noise(0.5, FRAMES, 2L * round + 1);
            float[][] whole = runMoving(start(insert, 2), BLOCK, from, to, left, right);
            for (int block : new int[] {1, 31}) {
                float[][] pieces = runMoving(start(insert, 2), block, from, to, left, right);
                assertThat(pieces[0]).as("%s in blocks of %d", insert, block).isEqualTo(whole[0]);
                assertThat(pieces[1]).as("%s in blocks of %d", insert, block).isEqualTo(whole[1]);
            }
        }
    }

    @ParameterizedTest
    @MethodSource("waterwheel.core.processing.Processors#kinds")
    void one_that_has_moved_and_was_reset_is_as_one_that_began_there(ProcessorKind kind) {
        SplittableRandom random = new SplittableRandom(8);
        for (int round = 0; round < ROUNDS; round++) {
            Insert insert = random(kind, random);
            double[] to = elsewhere(insert.processor(), random);
            Processor there = new Processor(
                    kind, Arrays.stream(to).boxed().toList(), insert.processor().response());
            float[] left = Signals.noise(0.5, FRAMES, 2L * round);
            float[] right = Signals.noise(0.5, FRAMES, 2L * round + 1);
            Effect moved = start(insert, 2);
            moved.move(to, 1_000);
            run(moved, BLOCK, right, left);
            moved.reset();
            moved.seek(0);
            float[][] again = run(moved, BLOCK, left, right);
            float[][] fresh = run(start(insert.withProcessor(there), 2), BLOCK, left, right);
            assertThat(again[0]).as("%s", insert).isEqualTo(fresh[0]);
            assertThat(again[1]).as("%s", insert).isEqualTo(fresh[1]);
        }
    }

    @ParameterizedTest
    @MethodSource("waterwheel.core.processing.Processors#kinds")
    void moving_allocates_nothing(ProcessorKind kind) {
        ThreadMXBean threads = (ThreadMXBean) ManagementFactory.getThreadMXBean();
        SplittableRandom random = new SplittableRandom(9);
        Insert insert = random(kind, random);
        SlotEffect effect = (SlotEffect) start(insert, 2);
        double[][] places = new double[50][];
        Arrays.setAll(places, i -> elsewhere(insert.processor(), random));
        float[][] block = {Signals.noise(0.5, 32, 1), Signals.noise(0.5, 32, 2)};
        long before = 0;
        for (int i = 0; i < 20_000; i++) {
            if (i == 15_000) {
                before = threads.getCurrentThreadAllocatedBytes();
            }
            effect.move(places[i % places.length], 32);
            effect.moveMix(i % 7, (i % 5) / 4.0, 32);
            effect.process(block, null, 32);
        }
        assertThat(threads.getCurrentThreadAllocatedBytes() - before).isLessThan(2_000);
    }
}
