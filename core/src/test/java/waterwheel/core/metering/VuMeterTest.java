package waterwheel.core.metering;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import waterwheel.core.testing.Signals;

/** The ballistics of IEC 60268-17. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class VuMeterTest {
    @ParameterizedTest
    @ValueSource(ints = {44_100, 48_000, 96_000})
    void a_steady_sine_of_the_reference_level_reads_0_VU(int rate) {
        VuMeter meter = new VuMeter(rate, -18);
        float[] tone = Signals.sine(1_000, -18, rate, 4);
        meter.process(tone, 0, tone.length);
        assertThat(meter.readingVu()).isCloseTo(0, within(0.05));
    }

    @ParameterizedTest
    @ValueSource(ints = {44_100, 48_000, 96_000})
    void it_reaches_99_percent_in_300_ms_and_swings_over_by_1_to_1_5_percent(int rate) {
        VuMeter meter = new VuMeter(rate, -18);
        float[] tone = Signals.sine(1_000, -18, rate, 2);
        double reached = 0;
        for (int at = 0; at < tone.length && reached == 0; at += rate / 1_000) {
            meter.process(tone, at, rate / 1_000);
            if (Math.pow(10, meter.readingVu() / 20) >= 0.99) {
                reached = (double) at / rate;
            }
        }
        assertThat(reached).as("seconds to 99 %").isCloseTo(0.3, within(0.03));
        meter.process(tone, (int) (reached * rate), rate);
        assertThat(Math.pow(10, meter.highestVu() / 20)).as("highest swing").isBetween(1.01, 1.015);
    }

    /** The same movement in steps a hundred times as short as a sample, by Euler's rule. */
    private static double[] slowly(float[] signal, int rate) {
        double w = 13.515;
        double step = 0.01 / rate;
        double place = 0;
        double speed = 0;
        double[] readings = new double[signal.length];
        for (int i = 0; i < signal.length; i++) {
            for (int part = 0; part < 100; part++) {
                double pull = w * w * (Math.abs(signal[i]) - place) - 2 * 0.8128 * w * speed;
                place += step * speed;
                speed += step * pull;
            }
            readings[i] = 20 * Math.log10(place * Math.PI / 2 / Math.pow(10, -18 / 20.0));
        }
        return readings;
    }

    @ParameterizedTest
    @CsvSource({"30, 44100, 480", "997, 48000, 441", "9000, 48000, 1", "1000, 96000, 4096"})
    void readings_at_any_time_are_those_of_every_sample_within_a_hundredth_of_a_decibel(
            double hertz, int rate, int block) {
        float[] tone = Signals.sine(hertz, -12, rate, 0.8);
        // It stops half way, so that the needle rises and falls.
        Arrays.fill(tone, tone.length / 2, tone.length, 0);
        double[] expected = slowly(tone, rate);
        VuMeter meter = new VuMeter(rate, -18);
        for (int at = 0; at + block <= tone.length; at += block) {
            meter.process(tone, at, block);
            // Near rest the needle swings through 0, where no decibels are.
            if (expected[at + block - 1] > -20) {
                assertThat(meter.readingVu())
                        .as("after %d samples", at + block)
                        .isCloseTo(expected[at + block - 1], within(0.01));
            }
        }
    }

    @Test
    void silence_reads_minus_infinity() {
        VuMeter meter = new VuMeter(48_000, -18);
        meter.process(new float[4_800], 0, 4_800);
        assertThat(meter.readingVu()).isEqualTo(Double.NEGATIVE_INFINITY);
    }
}
