package waterwheel.core.processing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static waterwheel.core.processing.EffectRuns.insert;
import static waterwheel.core.processing.EffectRuns.rms;
import static waterwheel.core.processing.EffectRuns.run;
import static waterwheel.core.processing.EffectRuns.settings;

import java.util.Arrays;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.Processor;
import waterwheel.core.inserts.ProcessorKind;
import waterwheel.core.testing.Signals;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class EffectsTest {
    private static final int RATE = 48_000;
    private static final int BLOCK = 512;
    /** For the effect that works with one: noise that dies away. */
    private static final Response RESPONSE = Response.of(new float[][] {fading(9_000, 3), fading(9_000, 4)});

    private static float[] fading(int frames, int seed) {
        float[] out = Signals.noise(0.8, frames, seed);
        for (int i = 0; i < frames; i++) {
            out[i] *= (float) Math.exp(-i / 2_000.0);
        }
        return out;
    }

    private static float[][] through(Processor processor, float[]... planes) {
        return run(Effects.start(insert(processor), new Site(RATE, planes.length, BLOCK, RESPONSE)), BLOCK, planes);
    }

    private static float[] impulse(int frames) {
        float[] out = new float[frames];
        out[0] = 1;
        return out;
    }

    @Test
    void the_fast_logarithm_is_within_a_thousandth_of_a_dB() {
        for (double db = -160; db < 40; db += 0.0137) {
            float value = (float) Math.pow(10, db / 20);
            assertThat((double) Logarithm.log2(value) * Logarithm.DB_PER_OCTAVE).isCloseTo(db, within(0.001));
            double back = 20 * Math.log10(Logarithm.exp2((float) (db / Logarithm.DB_PER_OCTAVE)));
            assertThat(back).isCloseTo(db, within(0.001));
        }
    }

    @ParameterizedTest
    @MethodSource("waterwheel.core.processing.Processors#kinds")
    void the_block_size_changes_no_bit_and_a_reset_begins_anew(ProcessorKind kind) {
        Insert insert = insert(Processor.usual(kind)).withMix(0.7).withOutputDb(-2);
        float[] left = Signals.noise(0.8, 20_000, 1);
        float[] right = Signals.noise(0.8, 20_000, 2);
        float[][] whole =
                run(Effects.start(insert, new Site(RATE, 2, 20_000, RESPONSE)), 20_000, left.clone(), right.clone());
        Effect small = Effects.start(insert, new Site(RATE, 2, 64, RESPONSE));
        assertThat(run(small, 64, left.clone(), right.clone())).isDeepEqualTo(whole);
        small.reset();
        assertThat(run(small, 64, left.clone(), right.clone())).isDeepEqualTo(whole);
    }

    @ParameterizedTest
    @MethodSource("waterwheel.core.processing.Processors#kinds")
    void an_effect_that_adopts_another_goes_on_as_it_would_have(ProcessorKind kind) {
        Insert insert = insert(Processor.usual(kind));
        float[] left = Signals.noise(0.8, 20_000, 1);
        float[] right = Signals.noise(0.8, 20_000, 2);
        float[][] whole =
                run(Effects.start(insert, new Site(RATE, 2, BLOCK, RESPONSE)), BLOCK, left.clone(), right.clone());
        Effect first = Effects.start(insert, new Site(RATE, 2, BLOCK, RESPONSE));
        Effect second = Effects.start(insert, new Site(RATE, 2, BLOCK, RESPONSE));
        int half = 20 * BLOCK;
        float[][] begin = run(first, BLOCK, Arrays.copyOf(left, half), Arrays.copyOf(right, half));
        second.adopt(first);
        float[][] end =
                run(second, BLOCK, Arrays.copyOfRange(left, half, 20_000), Arrays.copyOfRange(right, half, 20_000));
        assertThat(begin[0]).isEqualTo(Arrays.copyOf(whole[0], half));
        assertThat(end[0]).isEqualTo(Arrays.copyOfRange(whole[0], half, 20_000));
        assertThat(end[1]).isEqualTo(Arrays.copyOfRange(whole[1], half, 20_000));
    }

    @ParameterizedTest
    @MethodSource("waterwheel.core.processing.Processors#kinds")
    void the_mix_is_in_time_with_what_is_processed(ProcessorKind kind) {
        // All dry: the signal itself, as late as the processor is.
        Insert dry = insert(Processor.usual(kind)).withMix(0);
        Effect effect = Effects.start(dry, new Site(RATE, 1, BLOCK, RESPONSE));
        float[] out = run(effect, BLOCK, impulse(2_000))[0];
        int late = Effects.latencyFrames(dry.processor(), RATE);
        assertThat(effect.latencyFrames()).isEqualTo(late);
        for (int i = 0; i < out.length; i++) {
            assertThat(out[i]).isEqualTo(i == late ? 1f : 0f);
        }
    }

    @Nested
    class An_equaliser {
        private final Processor all = settings(
                Equaliser.KIND,
                "highPassSlope",
                2,
                "highPassHz",
                60,
                "lowShelfDb",
                4,
                "lowShelfHz",
                150,
                "bell1Db",
                -6,
                "bell1Q",
                2,
                "bell2Db",
                5,
                "bell2Hz",
                9_000,
                "highShelfDb",
                -3,
                "lowPassSlope",
                1,
                "lowPassHz",
                15_000);

        @ParameterizedTest
        @ValueSource(doubles = {30, 60, 120, 400, 1_000, 4_000, 9_000, 15_000, 20_000})
        void passes_a_sine_by_the_response_that_is_drawn(double hertz) {
            float[] out = through(all, Signals.sine(hertz, -6, RATE, 2))[0];
            double gain = rms(out, RATE, 2 * RATE) + 6;
            assertThat(gain).isCloseTo(Equaliser.responseDb(all, hertz, RATE), within(0.01));
        }

        /** The bilinear transform maps each frequency to another one of the analogue prototype, exactly. */
        @ParameterizedTest
        @ValueSource(doubles = {50, 700, 3_000, 10_000, 18_000})
        void is_its_analogue_prototype_at_the_warped_frequency(double hertz) {
            double f0 = 8_000;
            double x = Math.tan(Math.PI * hertz / RATE) / Math.tan(Math.PI * f0 / RATE);
            double gain = 6;
            double q = 1.5;
            double a = Math.pow(10, gain / 40);
            double bell = Math.hypot(1 - x * x, x * a / q) / Math.hypot(1 - x * x, x / (a * q));
            Processor one = settings(Equaliser.KIND, "bell2Hz", f0, "bell2Db", gain, "bell2Q", q);
            assertThat(Equaliser.responseDb(one, hertz, RATE)).isCloseTo(20 * Math.log10(bell), within(1e-6));
            Processor high = settings(Equaliser.KIND, "highPassHz", 2_000, "highPassSlope", 1);
            double y = Math.tan(Math.PI * hertz / RATE) / Math.tan(Math.PI * 2_000 / RATE);
            assertThat(Equaliser.responseDb(high, hertz, RATE))
                    .isCloseTo(20 * Math.log10(y * y / Math.sqrt(1 + Math.pow(y, 4))), within(1e-6));
        }

        /** Butterworth: half the power at the frequency, and far from it the slope. */
        @ParameterizedTest
        @CsvSource({"1, 2", "2, 4"})
        void passes_are_Butterworth_of_their_slope(int slope, int order) {
            Processor high = settings(Equaliser.KIND, "highPassHz", 1_000, "highPassSlope", slope);
            Processor low = settings(Equaliser.KIND, "lowPassHz", 1_000, "lowPassSlope", slope);
            for (double hertz : new double[] {50, 400, 1_000, 1_700, 9_000}) {
                double x = Math.tan(Math.PI * hertz / RATE) / Math.tan(Math.PI * 1_000 / RATE);
                double passed = -10 * Math.log10(1 + Math.pow(x, 2 * order));
                assertThat(Equaliser.responseDb(low, hertz, RATE)).isCloseTo(passed, within(1e-6));
                assertThat(Equaliser.responseDb(high, hertz, RATE))
                        .isCloseTo(-10 * Math.log10(1 + Math.pow(x, -2 * order)), within(1e-6));
            }
        }

        @Test
        void shelves_have_half_their_gain_at_their_frequency_and_all_of_it_beyond() {
            Processor low = settings(Equaliser.KIND, "lowShelfHz", 500, "lowShelfDb", 8);
            Processor high = settings(Equaliser.KIND, "highShelfHz", 5_000, "highShelfDb", -8);
            assertThat(Equaliser.responseDb(low, 500, RATE)).isCloseTo(4, within(1e-6));
            assertThat(Equaliser.responseDb(low, 10, RATE)).isCloseTo(8, within(0.01));
            assertThat(Equaliser.responseDb(low, 20_000, RATE)).isCloseTo(0, within(0.01));
            assertThat(Equaliser.responseDb(high, 5_000, RATE)).isCloseTo(-4, within(1e-6));
            assertThat(Equaliser.responseDb(high, 23_900, RATE)).isCloseTo(-8, within(0.01));
            assertThat(Equaliser.responseDb(high, 50, RATE)).isCloseTo(0, within(0.01));
        }

        @Test
        void with_all_bands_at_rest_changes_nothing() {
            float[] noise = Signals.noise(0.5, 5_000, 4);
            assertThat(through(Processor.usual(Equaliser.KIND), noise.clone())[0])
                    .isEqualTo(noise);
        }
    }

    @Nested
    class A_transient_shaper {
        /** A tone of 1 kHz that is at once there after 1 s, lasts 1 s and dies away by 60 dB a second. */
        private float[] struck(double db) {
            float[] tone = new float[3 * RATE];
            for (int i = RATE; i < tone.length; i++) {
                double fall = i < 2 * RATE ? 0 : -60.0 * (i - 2 * RATE) / RATE;
                tone[i] = (float) (Math.pow(10, (db + fall) / 20) * Math.sin(2 * Math.PI * 1_000.0 * i / RATE));
            }
            return tone;
        }

        private double gainDb(Processor settings, double db, int from, int to) {
            float[] tone = struck(db);
            float[] out = through(settings, tone.clone())[0];
            return rms(out, from, to) - rms(tone, from, to);
        }

        @ParameterizedTest
        @CsvSource({"12, -12", "12, -50", "-9, -12"})
        void turns_a_beginning_by_the_setting_and_what_follows_by_nothing(double attack, double level) {
            Processor shaper = settings(TransientShaper.KIND, "attackDb", attack, "attackMs", 40);
            // The slow envelope is 24 dB behind and catches up by 12 dB in 40 ms x ln 2 = 28 ms.
            assertThat(gainDb(shaper, level, RATE + 240, RATE + 1_200)).isCloseTo(attack, within(0.1));
            assertThat(gainDb(shaper, level, RATE + RATE / 2, 2 * RATE)).isCloseTo(0, within(0.1));
        }

        @Test
        void turns_what_dies_away_by_the_setting() {
            Processor shaper = settings(TransientShaper.KIND, "attackDb", 0, "sustainDb", 10, "sustainMs", 600);
            assertThat(gainDb(shaper, -12, RATE + RATE / 2, 2 * RATE)).isCloseTo(0, within(0.1));
            // Falling 60 dB/s, followers of 600 ms and 20 ms lie 60 (0.6 (1 - e^(-t/0.6)) - 0.02) dB apart: over 12 dB
            // after 0.4 s.
            assertThat(gainDb(shaper, -12, 2 * RATE + RATE / 2, 2 * RATE + 3 * RATE / 4))
                    .isCloseTo(10, within(0.1));
        }
    }

    @Nested
    class A_compressor {
        @ParameterizedTest
        @CsvSource({"-40, -40", "-24, -24", "-14, -21.5", "-4, -19"})
        void turns_a_steady_tone_down_by_its_ratio_above_the_threshold(double in, double out) {
            // 4:1 above -24 dBFS, hard knee. RMS detection reads a sine at its level.
            Processor hard = settings(Compressor.KIND, "kneeDb", 0, "detection", 1, "attackMs", 5);
            float[] tone = through(hard, Signals.sine(1_000, in, RATE, 3))[0];
            assertThat(rms(tone, 2 * RATE, 3 * RATE)).isCloseTo(out, within(0.1));
            assertThat(Compressor.outputDb(hard, in)).isCloseTo(out, within(1e-9));
        }

        @Test
        void has_a_soft_knee_that_meets_both_lines() {
            Processor soft = settings(Compressor.KIND, "kneeDb", 12);
            assertThat(Compressor.outputDb(soft, -30)).isCloseTo(-30, within(1e-9));
            assertThat(Compressor.outputDb(soft, -18)).isCloseTo(-24 + 6 / 4.0, within(1e-9));
            // In the middle: (1 - 1/4) 6² / 24 = 1.125 dB.
            assertThat(Compressor.outputDb(soft, -24)).isCloseTo(-25.125, within(1e-9));
        }

        @Test
        void listens_to_its_key_and_leaves_the_signal_alone_when_that_is_silent() {
            Effect effect = Effects.start(insert(Processor.usual(Compressor.KIND)), new Site(RATE, 1, BLOCK, RESPONSE));
            float[] loud = Signals.sine(1_000, 0, RATE, 512.0 / RATE);
            float[][] signal = {loud.clone()};
            effect.process(signal, new float[2][BLOCK], BLOCK);
            assertThat(signal[0]).isEqualTo(loud);
            float[] soft = Signals.sine(1_000, -60, RATE, 512.0 / RATE);
            for (int i = 0; i < 40; i++) {
                signal[0] = soft.clone();
                effect.process(signal, new float[][] {loud, loud}, BLOCK);
            }
            assertThat(rms(signal[0], 0, BLOCK)).isLessThan(-70);
            assertThat(effect.reductionDb()).isBetween(14.0, 18.1);
        }
    }

    @Test
    void a_gate_turns_down_what_lies_below_its_threshold_and_no_further_than_its_range() {
        Processor gate = settings(Gate.KIND, "thresholdDb", -40, "ratio", 2, "rangeDb", 20, "holdMs", 0);
        assertThat(rms(through(gate, Signals.sine(1_000, -30, RATE, 2))[0], RATE, 2 * RATE))
                .isCloseTo(-30, within(0.05));
        // Closing slowly between the crests of a sine, it rests near (but not past) the line of its peaks.
        double soft = rms(through(gate, Signals.sine(1_000, -50, RATE, 2))[0], RATE, 2 * RATE);
        assertThat(soft).isBetween(-61.5, -59.5);
        double softest = rms(through(gate, Signals.sine(1_000, -75, RATE, 2))[0], RATE, 2 * RATE);
        assertThat(softest).isCloseTo(-95, within(0.2));
    }

    @Nested
    class A_saturator {
        @Test
        void clips_at_18_dB_above_its_reference() {
            Processor clip = settings(Saturator.KIND, "shape", 1, "driveDb", 30, "referenceDbfs", -24);
            float[] out = through(clip, Signals.sine(100, -6, RATE, 1))[0];
            // Nearly a square of -6 dBFS; RMS in the AES17 convention is 3.01 dB above it.
            assertThat(rms(out, RATE / 2, RATE)).isCloseTo(-6 + 3.01, within(0.25));
        }

        @Test
        void keeps_its_alias_products_down() {
            // 17 kHz driven hard: the third harmonic at 51 kHz would fold to 3 kHz at 48 kHz.
            float[] out = through(settings(Saturator.KIND, "driveDb", 12), Signals.sine(17_000, -6, RATE, 1))[0];
            double re = 0;
            double im = 0;
            for (int i = RATE / 2; i < RATE; i++) {
                re += out[i] * Math.cos(2 * Math.PI * 3_000 * i / RATE);
                im += out[i] * Math.sin(2 * Math.PI * 3_000 * i / RATE);
            }
            double alias = 20 * Math.log10(Math.hypot(re, im) * 4 / RATE);
            assertThat(alias).isLessThan(-60);
        }
    }

    @Test
    void a_stereo_tool_weighs_middle_and_side_and_delays_to_the_sample() {
        Processor wide = settings(StereoTool.KIND, "middleDb", -6, "sideDb", 6, "delayMs", 1, "polarity", 1);
        float[][] out = through(wide, impulse(100), new float[100]);
        double middle = Math.pow(10, -6 / 20.0);
        double side = Math.pow(10, 6 / 20.0);
        assertThat((double) out[0][48]).isCloseTo(-(middle + side) / 2, within(1e-6));
        assertThat((double) out[1][48]).isCloseTo((middle - side) / 2, within(1e-6));
        assertThat(out[0][47]).isZero();
    }

    @Test
    void echoes_come_at_their_time_and_cross_the_sides() {
        Processor delay = settings(Delay.KIND, "timeMs", 10, "feedbackPercent", 50, "dampingHz", 20_000, "sides", 1);
        float[][] out = through(delay, impulse(2_000), new float[2_000]);
        assertThat(out[0][480]).isEqualTo(1);
        assertThat(out[0][0]).isZero();
        // The second one on the other side, half as loud, but for the damping, whose first sample is 1 - e^-2.6.
        assertThat((double) out[1][960]).isCloseTo(0.5 * (1 - Math.exp(-2 * Math.PI * 20 / 48)), within(1e-6));
        assertThat(out[0][960]).isZero();
    }

    @ParameterizedTest
    @ValueSource(doubles = {0.8, 2.5})
    void a_reverb_falls_by_60_dB_in_its_decay_time(double seconds) {
        Processor hall = settings(Reverb.KIND, "decaySeconds", seconds, "dampingHz", 20_000, "preDelayMs", 0);
        int frames = (int) (seconds * RATE);
        float[][] out = through(hall, impulse(2 * frames), new float[2 * frames]);
        int window = RATE / 10;
        double early = rms(out[0], frames / 5, frames / 5 + window);
        double later = rms(out[0], frames / 5 + frames / 2, frames / 5 + frames / 2 + window);
        assertThat(early - later).isCloseTo(30, within(4.0));
    }

    @ParameterizedTest
    @ValueSource(doubles = {100, 1_000, 9_000})
    void a_fine_delay_turns_the_phase_by_its_fraction_of_a_frame(double hertz) {
        // 10.4 frames; the filter is late by as much as it says on top.
        double frames = 10.4;
        Processor fine = settings(StereoTool.KIND, "delayMs", frames / RATE * 1_000);
        int late = Effects.latencyFrames(fine, RATE);
        float[] out = through(fine, Signals.sine(hertz, -6, RATE, 1))[0];
        for (int i = RATE / 2; i < RATE; i++) {
            double exact = Math.pow(10, -6 / 20.0) * Math.sin(2 * Math.PI * hertz * (i - late - frames) / RATE);
            assertThat((double) out[i]).isCloseTo(exact, within(5e-4));
        }
    }

    @Nested
    class A_multiband_compressor {
        private final Processor idle =
                settings(Multiband.KIND, "lowThresholdDb", 0, "midThresholdDb", 0, "highThresholdDb", 0, "kneeDb", 0);

        @ParameterizedTest
        @ValueSource(doubles = {40, 200, 450, 1_000, 3_000, 5_000, 12_000, 20_000})
        void is_flat_while_it_turns_nothing_down(double hertz) {
            float[] out = through(idle, Signals.sine(hertz, -12, RATE, 2))[0];
            assertThat(rms(out, RATE, 2 * RATE)).isCloseTo(-12, within(0.001));
        }

        @ParameterizedTest
        @CsvSource({"50, -20", "1000, -10", "10000, -10"})
        void turns_down_only_the_band_that_is_too_loud(double hertz, double dbfs) {
            // Low band 2:1 above -30 dBFS; a sine's peak is its level: -10 comes out at -20.
            Processor low = idle.with("lowThresholdDb", -30)
                    .with("lowRatio", 2)
                    .with("lowAttackMs", 0.05)
                    .with("lowReleaseMs", 3_000);
            float[] out = through(low, Signals.sine(hertz, -10, RATE, 4))[0];
            assertThat(rms(out, 3 * RATE, 4 * RATE)).isCloseTo(dbfs, within(0.1));
        }

        @Test
        void divides_at_minus_6_dB_as_Linkwitz_and_Riley_do() {
            // With the other two bands pulled down by 20:1 from -60 dBFS on, the middle alone is left at its edge.
            Crossover crossover = new Crossover(200, 3_000, RATE);
            for (double edge : new double[] {200, 3_000}) {
                float[][] tone = {Signals.sine(edge, -12, RATE, 1)};
                crossover.reset();
                float[][][] bands = new float[3][1][RATE];
                crossover.divide(tone, bands, RATE);
                assertThat(rms(bands[1][0], RATE / 2, RATE)).isCloseTo(-12 - 6.02, within(0.06));
            }
        }
    }
}
