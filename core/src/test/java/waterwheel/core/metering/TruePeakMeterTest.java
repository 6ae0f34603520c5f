package waterwheel.core.metering;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static org.assertj.core.api.Assertions.withinPercentage;
import static waterwheel.core.testing.Signals.sine;

import java.util.SplittableRandom;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.DoubleRange;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import waterwheel.core.testing.Signals;

/** The true-peak signals of EBU Tech 3341 with its tolerance of +0.2 and -0.4 dB. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class TruePeakMeterTest {
    private static double dbtp(float[] signal, int rate) {
        TruePeakMeter meter = new TruePeakMeter(rate);
        meter.process(signal, 0, signal.length);
        return 20 * Math.log10(meter.maximum());
    }

    /** Fades the ends, as the standard's files do, so that starting and stopping make no peak of their own. */
    private static float[] faded(float[] signal) {
        int fade = signal.length / 10;
        for (int i = 0; i < fade; i++) {
            float gain = (float) i / fade;
            signal[i] *= gain;
            signal[signal.length - 1 - i] *= gain;
        }
        return signal;
    }

    @ParameterizedTest
    @CsvSource({
        "4, 0, -6.02, -6.0",
        "4, 45, -6.02, -6.0",
        "6, 60, -6.02, -6.0",
        "8, 67.5, -6.02, -6.0",
        "4, 45, 2.98, 3.0"
    })
    void tests_15_to_19_sines_between_the_samples(int divisor, double phase, double level, double expected) {
        for (int rate : new int[] {44_100, 48_000, 96_000}) {
            double found = dbtp(faded(sine((double) rate / divisor, level, rate, 0.5, phase)), rate);
            assertThat(found).as("at %d Hz", rate).isBetween(expected - 0.4, expected + 0.2);
        }
    }

    @Test
    void a_peak_on_a_sample_is_the_samples_own() {
        float[] signal = new float[200];
        signal[100] = -0.75f;
        assertThat(dbtp(signal, 48_000)).isCloseTo(20 * Math.log10(0.75), within(0.01));
    }

    /** What the meter must find: every interpolated point, none skipped, by the windowed sinc in double. */
    private static double slowly(float[] signal) {
        double most = 0;
        for (int i = -12; i < signal.length + 12; i++) {
            for (int phase = 0; phase < 4; phase++) {
                most = Math.max(most, Math.abs(at(signal, i + phase / 4.0)));
            }
        }
        return most;
    }

    private static double at(float[] signal, double place) {
        int base = (int) Math.floor(place);
        double fraction = place - base;
        if (fraction == 0) {
            return base >= 0 && base < signal.length ? signal[base] : 0;
        }
        double sum = 0;
        double norm = 0;
        for (int k = -11; k <= 12; k++) {
            double t = fraction - k;
            double window = bessel(8 * Math.sqrt(Math.max(0, 1 - t * t / 144)));
            double tap = Math.sin(Math.PI * t) / (Math.PI * t) * window;
            norm += tap;
            int index = base + k;
            sum += index >= 0 && index < signal.length ? tap * signal[index] : 0;
        }
        return sum / norm;
    }

    private static double bessel(double x) {
        double sum = 1;
        double term = 1;
        for (int k = 1; k < 60; k++) {
            term *= x * x / (4.0 * k * k);
            sum += term;
        }
        return sum;
    }

    @Property(tries = 60)
    void skipping_what_cannot_be_a_new_maximum_loses_no_maximum(
            @ForAll @IntRange(min = 1, max = 900) int length,
            @ForAll @IntRange int seed,
            @ForAll @DoubleRange(min = 0, max = 0.98) double smoothness) {
        float[] signal = Signals.noise(1, length, seed);
        for (int i = 1; i < length; i++) {
            signal[i] = (float) (smoothness * signal[i - 1] + (1 - smoothness) * signal[i]);
        }
        TruePeakMeter meter = new TruePeakMeter(48_000);
        meter.process(signal, 0, length);
        // Taps are float in the meter, double here.
        assertThat(meter.maximum()).isCloseTo(slowly(signal), withinPercentage(0.001));
    }

    /** Where it is loud for some samples only, most of what lies around them is left out. */
    @Property(tries = 100)
    void bursts_between_quiet_stretches_lose_no_maximum(
            @ForAll @IntRange(min = 200, max = 2_000) int length, @ForAll @IntRange int seed) {
        SplittableRandom random = new SplittableRandom(seed);
        float[] signal = Signals.noise(0.1, length, seed);
        for (int burst = 0; burst < 6; burst++) {
            int at = random.nextInt(length);
            double level = random.nextDouble(0.2, 1);
            for (int i = at; i < Math.min(length, at + 1 + random.nextInt(20)); i++) {
                signal[i] = (float) (level * (random.nextDouble() * 2 - 1));
            }
        }
        TruePeakMeter meter = new TruePeakMeter(48_000);
        meter.process(signal, 0, length);
        assertThat(meter.maximum()).isCloseTo(slowly(signal), withinPercentage(0.001));
    }

    /** Noise, tones, swells, squares and single clicks: what is left out must not show in a single bit. */
    @Property(tries = 300)
    void the_maximum_is_that_of_all_points_to_the_bit(
            @ForAll @IntRange(min = 1, max = 4_000) int length,
            @ForAll @IntRange(min = 0, max = 4) int kind,
            @ForAll @IntRange(min = 1, max = 700) int block,
            @ForAll @IntRange int seed,
            @ForAll boolean fast) {
        SplittableRandom random = new SplittableRandom(seed);
        double step = random.nextDouble(0.01, 3.1);
        double scale = Math.pow(10, random.nextDouble(-6, 1));
        float[] signal = new float[length];
        for (int i = 0; i < length; i++) {
            double value =
                    switch (kind) {
                        case 0 -> random.nextDouble(-1, 1);
                        case 1 -> Math.sin(step * i);
                        case 2 -> Math.sin(step * i) * i / length;
                        case 3 -> Math.signum(Math.sin(step * i));
                        default -> random.nextInt(200) == 0 ? random.nextDouble(-1, 1) : 0;
                    };
            signal[i] = (float) (scale * value);
        }
        int rate = fast ? 96_000 : 44_100;
        TruePeakMeter meter = new TruePeakMeter(rate);
        for (int at = 0; at < length; at += block) {
            meter.process(signal, at, Math.min(block, length - at));
        }
        float[] padded = new float[length + 2 * TruePeakTaps.TAPS];
        System.arraycopy(signal, 0, padded, TruePeakTaps.TAPS, length);
        double most = 0;
        for (int i = TruePeakTaps.TAPS; i < padded.length; i++) {
            most = Math.max(most, Math.abs(padded[i]));
            for (float[] taps : TruePeakTaps.of(rate)) {
                most = Math.max(most, Math.abs(TruePeakTaps.point(taps, padded, i)));
            }
        }
        assertThat(meter.maximum()).isEqualTo(most);
    }

    @Property(tries = 30)
    boolean block_size_does_not_matter(@ForAll @IntRange(min = 1, max = 200) int block, @ForAll @IntRange int seed) {
        float[] signal = Signals.noise(1, 1_000, seed);
        TruePeakMeter meter = new TruePeakMeter(48_000);
        for (int at = 0; at < signal.length; at += block) {
            meter.process(signal, at, Math.min(block, signal.length - at));
        }
        TruePeakMeter whole = new TruePeakMeter(48_000);
        whole.process(signal, 0, signal.length);
        return meter.maximum() == whole.maximum();
    }
}
