package waterwheel.core.processing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class PinkFilterTest {
    private static final int RATE = 48_000;

    /** Longer than the filter rings: its slowest pole keeps e^-77 of an impulse. */
    private final double[] response = new double[1 << 15];

    PinkFilterTest() {
        PinkFilter filter = new PinkFilter();
        for (int i = 0; i < response.length; i++) {
            response[i] = filter.next(i == 0 ? 1 : 0);
        }
    }

    @Test
    void falls_by_3_dB_an_octave_from_40_Hz_to_20_kHz_within_half_a_decibel() {
        double least = Double.POSITIVE_INFINITY;
        double most = Double.NEGATIVE_INFINITY;
        for (double hertz = 40; hertz <= 20_000; hertz *= Math.pow(2, 1 / 12.0)) {
            double level = 10 * Math.log10(power(hertz) * hertz);
            least = Math.min(least, level);
            most = Math.max(most, level);
        }
        assertThat(most - least).isLessThan(2 * 0.5);
    }

    /** Parseval's theorem: of noise whose samples have nothing to do with each other the mean square is multiplied by the response's energy. */
    @Test
    void has_the_mean_square_that_levels_are_reckoned_with() {
        double energy = 0;
        for (double value : response) {
            energy += value * value;
        }
        assertThat(energy / 3).isCloseTo(PinkFilter.MEAN_SQUARE, within(1e-5));
    }

    private double power(double hertz) {
        double re = 0;
        double im = 0;
        for (int i = 0; i < response.length; i++) {
            re += response[i] * Math.cos(2 * Math.PI * hertz * i / RATE);
            im += response[i] * Math.sin(2 * Math.PI * hertz * i / RATE);
        }
        return re * re + im * im;
    }
}
