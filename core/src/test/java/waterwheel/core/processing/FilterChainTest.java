package waterwheel.core.processing;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import java.util.SplittableRandom;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;

/** Filters in a row against the difference equation, one sample and one filter at a time. */
class FilterChainTest {
    private static final int RATE = 48_000;
    private static final int FRAMES = 700;

    private record Setting(double hertz, double q, double db) {
        static Setting random(SplittableRandom random) {
            return new Setting(
                    20 * Math.pow(1_000, random.nextDouble()),
                    0.3 + 4 * random.nextDouble(),
                    random.nextInt(4) == 0 ? 0 : 36 * random.nextDouble() - 18);
        }

        void write(double[] to, int filter) {
            Biquad.bell(to, Biquad.SIZE * filter, hertz, q, db, RATE);
        }
    }

    /** A filter as it is written in textbooks: its coefficients at each frame, and what it was given and gave before. */
    private static double[] filtered(double[] signal, double[][] coefficients) {
        double[] out = new double[signal.length];
        double first = 0;
        double second = 0;
        for (int i = 0; i < signal.length; i++) {
            double[] c = coefficients[i];
            out[i] = c[0] * signal[i] + first;
            first = c[1] * signal[i] - c[3] * out[i] + second;
            second = c[2] * signal[i] - c[4] * out[i];
        }
        return out;
    }

    private static float[][] noise(int planes, SplittableRandom random) {
        float[][] signal = new float[planes][FRAMES];
        for (float[] plane : signal) {
            for (int i = 0; i < FRAMES; i++) {
                plane[i] = (float) (random.nextDouble() - 0.5);
            }
        }
        return signal;
    }

    private static float[][] copy(float[][] signal) {
        return Arrays.stream(signal).map(float[]::clone).toArray(float[][]::new);
    }

    private static void process(FilterChain chain, float[][] signal, int block) {
        for (int first = 0; first < FRAMES; first += block) {
            int count = Math.min(block, FRAMES - first);
            float[][] part = new float[signal.length][];
            for (int p = 0; p < part.length; p++) {
                part[p] = Arrays.copyOfRange(signal[p], first, first + count);
            }
            chain.process(part, count);
            for (int p = 0; p < part.length; p++) {
                System.arraycopy(part[p], 0, signal[p], first, count);
            }
        }
    }

    @Property(tries = 100)
    void any_filters_in_a_row_are_what_they_are_one_after_the_other(
            @ForAll long seed,
            @ForAll @IntRange(min = 1, max = 7) int filters,
            @ForAll @IntRange(min = 1, max = 2) int planes) {
        SplittableRandom random = new SplittableRandom(seed);
        FilterChain chain = new FilterChain(filters);
        double[][] still = new double[filters][Biquad.SIZE];
        for (int f = 0; f < filters; f++) {
            Setting setting = Setting.random(random);
            setting.write(chain.goal(), f);
            setting.write(still[f], 0);
            chain.move(f, 0);
        }
        float[][] signal = noise(planes, random);
        float[][] out = copy(signal);
        chain.process(out, FRAMES);
        for (int p = 0; p < planes; p++) {
            double[] wanted = new double[FRAMES];
            for (int i = 0; i < FRAMES; i++) {
                wanted[i] = signal[p][i];
            }
            for (double[] one : still) {
                double[][] same = new double[FRAMES][];
                Arrays.fill(same, one);
                wanted = filtered(wanted, same);
            }
            for (int i = 0; i < FRAMES; i++) {
                assertThat((double) out[p][i]).isBetween(wanted[i] - 1e-5, wanted[i] + 1e-5);
            }
        }
    }

    @Property(tries = 100)
    void a_filter_on_its_way_has_coefficients_on_a_straight_line(
            @ForAll long seed, @ForAll @IntRange(min = 1, max = 900) int way) {
        SplittableRandom random = new SplittableRandom(seed);
        FilterChain chain = new FilterChain(1);
        double[] from = new double[Biquad.SIZE];
        double[] to = new double[Biquad.SIZE];
        Setting start = Setting.random(random);
        Setting end = Setting.random(random);
        start.write(from, 0);
        start.write(chain.goal(), 0);
        chain.move(0, 0);
        end.write(to, 0);
        end.write(chain.goal(), 0);
        chain.move(0, way);
        float[][] signal = noise(1, random);
        double[] in = new double[FRAMES];
        double[][] line = new double[FRAMES][Biquad.SIZE];
        for (int i = 0; i < FRAMES; i++) {
            in[i] = signal[0][i];
            for (int c = 0; c < Biquad.SIZE; c++) {
                line[i][c] = from[c] + (to[c] - from[c]) * Math.min(1, (double) i / way);
            }
        }
        double[] wanted = filtered(in, line);
        chain.process(signal, FRAMES);
        for (int i = 0; i < FRAMES; i++) {
            assertThat((double) signal[0][i]).isBetween(wanted[i] - 1e-5, wanted[i] + 1e-5);
        }
    }

    @Property(tries = 100)
    void neither_blocks_nor_the_other_plane_nor_who_else_moves_changes_a_bit(
            @ForAll long seed, @ForAll @IntRange(min = 1, max = FRAMES) int block) {
        SplittableRandom random = new SplittableRandom(seed);
        int filters = 1 + random.nextInt(6);
        FilterChain whole = new FilterChain(filters);
        FilterChain divided = new FilterChain(filters);
        FilterChain alone = new FilterChain(filters);
        for (FilterChain chain : new FilterChain[] {whole, divided, alone}) {
            SplittableRandom same = new SplittableRandom(seed);
            for (int f = 0; f < filters; f++) {
                Setting.random(same).write(chain.goal(), f);
                chain.move(f, 0);
            }
            for (int f = 0; f < filters; f++) {
                if (same.nextBoolean()) {
                    Setting.random(same).write(chain.goal(), f);
                    chain.move(f, 1 + same.nextInt(1_000));
                }
            }
        }
        float[][] signal = noise(2, random);
        float[][] one = copy(signal);
        float[][] other = copy(signal);
        float[][] left = {signal[0].clone()};
        whole.process(one, FRAMES);
        process(divided, other, block);
        alone.process(left, FRAMES);
        assertThat(other[0]).isEqualTo(one[0]);
        assertThat(other[1]).isEqualTo(one[1]);
        assertThat(left[0]).isEqualTo(one[0]);
    }
}
