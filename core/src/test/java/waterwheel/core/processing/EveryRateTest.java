package waterwheel.core.processing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static org.junit.jupiter.api.Assumptions.assumeTrue;
import static waterwheel.core.processing.EffectRuns.insert;
import static waterwheel.core.processing.EffectRuns.settings;

import java.util.Arrays;
import java.util.stream.DoubleStream;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedClass;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import waterwheel.core.inserts.Processor;
import waterwheel.core.testing.Signals;

/** A setting in seconds, hertz or decibels means the same at every rate. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
@ParameterizedClass
@ValueSource(ints = {8_000, 44_100, 48_000, 88_200, 96_000, 176_400, 192_000, 384_000})
record EveryRateTest(int rate) {
    private static final int BLOCK = 512;

    @ParameterizedTest
    @CsvSource({"0.05, 5", "20, 100", "200, 3000"})
    void a_compressor_covers_63_percent_of_its_way_in_its_attack_and_in_its_release(double attackMs, double releaseMs) {
        Processor timed = settings(
                Compressor.KIND, "kneeDb", 0, "attackMs", attackMs, "releaseMs", releaseMs, "thresholdDb", -20);
        int loud = (int) (12 * attackMs * rate / 1_000) + 1;
        int attack = (int) Math.round(attackMs * rate / 1_000);
        int release = (int) Math.round(releaseMs * rate / 1_000);
        float[] steps = new float[loud + release + 1];
        Arrays.fill(steps, 0, loud, 1f); // 0 dBFS: 15 dB down in the end
        Arrays.fill(steps, loud, steps.length, 0.01f); // -40 dBFS: not turned down

        float[] out = run(timed, steps)[0];

        // What a step of one frame amounts to: at the shortest attack two frames are all there is.
        double frame = 15 / Math.max(2, attackMs * rate / 1_000);
        assertThat(-20 * Math.log10(out[attack])).isCloseTo(15 * (1 - Math.exp(-1)), within(0.02 + frame));
        assertThat(-20 * Math.log10(out[loud + release] / 0.01))
                .isCloseTo(15 * Math.exp(-1), within(0.02 + 15 * Math.exp(-1) / release));
    }

    @Test
    void a_gate_closes_after_its_hold_by_63_percent_in_its_release() {
        Processor gate =
                settings(Gate.KIND, "thresholdDb", -40, "ratio", 10, "rangeDb", 20, "holdMs", 500, "releaseMs", 1_000);
        float[] steps = new float[2 * rate];
        Arrays.fill(steps, 0, rate / 4, 0.1f);
        Arrays.fill(steps, rate / 4, steps.length, 0.001f);

        float[] out = run(gate, steps)[0];

        assertThat(-20 * Math.log10(out[rate / 4 + rate / 2 - 10] / 0.001)).isCloseTo(0, within(0.01));
        assertThat(-20 * Math.log10(out[rate / 4 + rate / 2 + rate] / 0.001))
                .isCloseTo(20 * (1 - Math.exp(-1)), within(0.05));
    }

    /** The slope of the energy that is still to come (M. R. Schroeder, New method of measuring reverberation time, 1965). */
    @ParameterizedTest
    @ValueSource(doubles = {1.5, 5})
    void a_reverb_falls_by_60_dB_in_its_decay_time(double seconds) {
        Processor hall = settings(Reverb.KIND, "decaySeconds", seconds, "dampingHz", 20_000, "preDelayMs", 0);
        // Far below where the damping begins.
        float[][] burst = new float[2][(int) (1.5 * seconds * rate)];
        System.arraycopy(Signals.sine(500, 0, rate, 0.02), 0, burst[0], 0, rate / 50);

        float[] out = run(hall, burst)[0];

        double[] left = new double[out.length + 1];
        for (int i = out.length - 1; i >= 0; i--) {
            left[i] = left[i + 1] + (double) out[i] * out[i];
        }
        int from = (int) (0.2 * seconds * rate);
        int to = (int) (0.8 * seconds * rate);
        assertThat(10 * Math.log10(left[from] / left[to])).isCloseTo(36, within(2.0));
    }

    @Test
    void a_reverb_of_noise_is_as_loud_with_a_long_decay_as_with_a_short_one() {
        double[] levels = DoubleStream.of(1, 2, 4, 8).map(this::reverbDb).toArray();

        assertThat(levels[3]).as(Arrays.toString(levels)).isCloseTo(levels[0], within(2.0));
        assertThat(levels[1]).as(Arrays.toString(levels)).isCloseTo(levels[2], within(1.0));
    }

    /** The level of a reverb of noise far below where its damping begins, when all of it has built up. */
    private double reverbDb(double decaySeconds) {
        Processor low = settings(Equaliser.KIND, "lowPassHz", 800, "lowPassSlope", 2);
        Processor hall = settings(Reverb.KIND, "decaySeconds", decaySeconds, "dampingHz", 20_000);
        int frames = (int) ((2 * decaySeconds + 6) * rate);
        float[][] noise = run(low, Signals.noise(0.9, frames, 1), Signals.noise(0.9, frames, 2));
        return rms(run(hall, noise)[0]);
    }

    @Test
    void a_key_is_heard_above_its_high_pass() {
        // A sine at the filter's frequency is 3.01 dB softer behind it, and four times as low 24 dB; 4:1 above -40
        // dBFS.
        for (double part : new double[] {1, 0.25}) {
            Processor keyed =
                    settings(Compressor.KIND, "kneeDb", 0, "thresholdDb", -40, "detection", 1, "keyHighPassHz", 400);
            double level = -10 - 10 * Math.log10(1 + Math.pow(part, -4));

            float[] out = run(keyed, Signals.sine(400 * part, -10, rate, 2))[0];

            assertThat(rms(out)).isCloseTo(-10 - 0.75 * (level + 40), within(0.2));
        }
    }

    @ParameterizedTest
    @ValueSource(doubles = {1, 10, 333.3})
    void an_echo_comes_at_its_time(double ms) {
        float[][] impulse = new float[2][(int) (0.4 * rate)];
        impulse[0][0] = 1;

        float[] out = run(settings(Delay.KIND, "timeMs", ms, "feedbackPercent", 0), impulse)[0];

        int loudest = 0;
        for (int i = 0; i < out.length; i++) {
            loudest = Math.abs(out[i]) > Math.abs(out[loudest]) ? i : loudest;
        }
        assertThat((double) loudest).isCloseTo(ms * rate / 1_000, within(0.51));
        assertThat(out[loudest]).isEqualTo(1);
    }

    @ParameterizedTest
    @CsvSource({"100, 6", "1000, -9", "10000, 12"})
    void a_bell_gives_its_gain_at_its_frequency(double hertz, double gain) {
        assumeTrue(hertz < 0.45 * rate, "above half the rate there is nothing");
        Processor bell = settings(Equaliser.KIND, "bell1Hz", hertz, "bell1Db", gain, "bell1Q", 2);

        float[] out = run(bell, Signals.sine(hertz, -20, rate, 1))[0];

        assertThat(rms(out)).isCloseTo(-20 + gain, within(0.01));
    }

    @ParameterizedTest
    @ValueSource(doubles = {40, 200, 1_000, 3_000, 12_000})
    void bands_that_turn_nothing_down_add_up_to_what_came_in(double hertz) {
        assumeTrue(hertz < 0.45 * rate, "above half the rate there is nothing");
        Processor idle =
                settings(Multiband.KIND, "lowThresholdDb", 0, "midThresholdDb", 0, "highThresholdDb", 0, "kneeDb", 0);

        float[] out = run(idle, Signals.sine(hertz, -12, rate, 1))[0];

        assertThat(rms(out)).isCloseTo(-12, within(0.002));
    }

    @Test
    void a_saturator_is_linear_for_soft_signals_but_for_its_drive() {
        float[] out = run(settings(Saturator.KIND, "driveDb", 6), Signals.sine(1_000, -50, rate, 1))[0];

        assertThat(rms(out)).isCloseTo(-44, within(0.02));
    }

    @ParameterizedTest
    @CsvSource({"0, 0.01", "1, 0.1", "2, 0.3"})
    void a_test_signal_has_its_level(int signal, double tolerance) {
        Processor tone = settings(TestTone.KIND, "signal", signal, "levelDb", -20);

        float[] out = run(tone, new float[20 * rate])[0];

        assertThat(rms(out)).isCloseTo(-20, within(tolerance));
    }

    private float[][] run(Processor processor, float[]... planes) {
        return EffectRuns.run(
                Effects.start(insert(processor), new Site(rate, planes.length, BLOCK, null)), BLOCK, planes);
    }

    /** Of the second half, after what begins has settled. */
    private static double rms(float[] signal) {
        return EffectRuns.rms(signal, signal.length / 2, signal.length);
    }
}
