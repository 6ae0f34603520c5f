package waterwheel.core.instruments;

import static org.assertj.core.api.Assertions.assertThat;

import org.assertj.core.data.Offset;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;

/** A sample read between its frames keeps its level, and loses what would fold back. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class KernelTest {
    private static double[] weights(Kernel kernel, int place) {
        double[] weights = new double[Kernel.TAPS];
        for (int tap = 0; tap < Kernel.TAPS; tap++) {
            weights[tap] = kernel.weights()[place * Kernel.TAPS + tap];
        }
        return weights;
    }

    /** The gain of a place at a frequency, as part of the sampling rate. */
    private static double gain(double[] weights, double frequency) {
        double real = 0;
        double imaginary = 0;
        for (int tap = 0; tap < weights.length; tap++) {
            real += weights[tap] * Math.cos(2 * Math.PI * frequency * tap);
            imaginary += weights[tap] * Math.sin(2 * Math.PI * frequency * tap);
        }
        return Math.hypot(real, imaginary);
    }

    @Test
    void every_place_leaves_a_constant_and_the_hearing_range_as_they_are() {
        Kernel kernel = Kernel.of(1);
        for (int place = 0; place <= Kernel.PLACES; place += 16) {
            double[] weights = weights(kernel, place);
            assertThat(gain(weights, 0)).isCloseTo(1, Offset.offset(1e-6));
            // 15 kHz at 48 kHz.
            assertThat(20 * Math.log10(gain(weights, 15.0 / 48))).isCloseTo(0, Offset.offset(0.1));
        }
    }

    @Test
    void on_a_frame_it_is_that_frame_and_the_table_ends_on_the_next() {
        double[] first = weights(Kernel.of(0.5), 0);
        double[] last = weights(Kernel.of(0.5), Kernel.PLACES);
        for (int tap = 0; tap < Kernel.TAPS; tap++) {
            assertThat(first[tap]).isCloseTo(tap == Kernel.TAPS / 2 - 1 ? 1 : 0, Offset.offset(1e-6));
            assertThat(last[tap]).isCloseTo(tap == Kernel.TAPS / 2 ? 1 : 0, Offset.offset(1e-6));
        }
    }

    @Test
    void played_faster_it_takes_away_what_would_fold_back() {
        // An octave up, what is above a quarter of the rate would: well above it is gone.
        double[] weights = weights(Kernel.of(2), 100);
        assertThat(20 * Math.log10(gain(weights, 0.42))).isLessThan(-50);
        assertThat(gain(weights, 0)).isCloseTo(1, Offset.offset(1e-6));
        assertThat(Kernel.of(2)).isSameAs(Kernel.of(1.99)).isNotSameAs(Kernel.of(1));
    }
}
