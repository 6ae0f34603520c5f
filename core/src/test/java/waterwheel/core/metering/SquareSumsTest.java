package waterwheel.core.metering;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

final class SquareSumsTest {
    private final SquareSums sums = new SquareSums();

    /** Of samples that are multiples of 1/128 every sum is exact, in whatever order it is made. */
    @ParameterizedTest
    @ValueSource(ints = {0, 1, 2, 79, 80, 81, 159, 160, 161, 441, 480, 2_048})
    void every_sample_counts_once_wherever_a_stretch_begins_and_ends(int count) {
        Random random = new Random(count);
        for (int from : new int[] {0, 1, 7, 100}) {
            float[] left = samples(random, from + count + 3);
            float[] right = samples(random, from + count + 3);
            double lefts = 0;
            double rights = 0;
            double products = 0;
            for (int i = from; i < from + count; i++) {
                lefts += (double) left[i] * left[i];
                rights += (double) right[i] * right[i];
                products += (double) left[i] * right[i];
            }

            sums.sum(left, right, from, count);

            assertThat(new double[] {sums.left, sums.right, sums.product})
                    .as("from %s, %s samples", from, count)
                    .containsExactly(lefts, rights, products);
        }
    }

    /** A sum of floats would lose what is 150 dB below. */
    @Test
    void sums_are_double() {
        float[] samples = new float[480];
        samples[3] = 1;
        samples[3 + 80] = 3e-8f;

        sums.sum(samples, samples, 0, 480);

        assertThat(sums.left).isEqualTo(1 + (double) 3e-8f * 3e-8f).isGreaterThan(1);
    }

    private static float[] samples(Random random, int count) {
        float[] samples = new float[count];
        for (int i = 0; i < count; i++) {
            samples[i] = (random.nextInt(257) - 128) / 128f;
        }
        return samples;
    }
}
