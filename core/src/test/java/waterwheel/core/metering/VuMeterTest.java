package waterwheel.core.metering;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
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

    @Test
    void silence_reads_minus_infinity() {
        VuMeter meter = new VuMeter(48_000, -18);
        meter.process(new float[4_800], 0, 4_800);
        assertThat(meter.readingVu()).isEqualTo(Double.NEGATIVE_INFINITY);
    }
}
