package waterwheel.core.metering;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static waterwheel.core.testing.Signals.joined;
import static waterwheel.core.testing.Signals.silence;
import static waterwheel.core.testing.Signals.sine;

import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** The signals and figures of ITU-R BS.1770-5, EBU Tech 3341 and EBU Tech 3342, synthesised. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class LoudnessTest {
    private static final double TOLERANCE_LU = 0.1;

    static LevelSeries measured(int rate, float[]... planes) {
        SeriesMeter meter = new SeriesMeter(rate, planes.length, planes[0].length, Detail.EVERYTHING);
        meter.process(planes, 0, planes[0].length);
        return meter.finish();
    }

    private static LevelSeries bothSides(int rate, float[] side) {
        return measured(rate, side, side);
    }

    /** Tech 3341's tones: 1 kHz stereo sines of given levels and lengths, one after the other. */
    private static LevelSeries tones(int rate, double... levelsAndSeconds) {
        float[][] parts = new float[levelsAndSeconds.length / 2][];
        for (int i = 0; i < parts.length; i++) {
            parts[i] = sine(1_000, levelsAndSeconds[2 * i], rate, levelsAndSeconds[2 * i + 1]);
        }
        return bothSides(rate, joined(parts));
    }

    @Test
    void the_filter_at_48_kHz_has_the_coefficients_that_BS_1770_prints() {
        KWeighting filter = KWeighting.at(48_000);
        assertThat(filter.shelfB0()).isCloseTo(1.53512485958697, within(1e-7));
        assertThat(filter.shelfB1()).isCloseTo(-2.69169618940638, within(1e-7));
        assertThat(filter.shelfB2()).isCloseTo(1.19839281085285, within(1e-7));
        assertThat(filter.shelfA1()).isCloseTo(-1.69065929318241, within(1e-7));
        assertThat(filter.shelfA2()).isCloseTo(0.73248077421585, within(1e-7));
        assertThat(filter.passA1()).isCloseTo(-1.99004745483398, within(1e-7));
        assertThat(filter.passA2()).isCloseTo(0.99007225036621, within(1e-7));
    }

    @ParameterizedTest
    @ValueSource(ints = {44_100, 48_000, 96_000})
    void a_full_scale_997_Hz_sine_in_one_front_channel_reads_minus_3_01_LUFS(int rate) {
        LevelSeries series = measured(rate, sine(997, 0, rate, 10), silence(rate, 10));
        // The standard's offset of 0.691 belongs to 48 kHz; elsewhere the shelf's warping leaves 0.02 LU.
        assertThat(Loudness.integratedLufs(series)).isCloseTo(-3.01, within(rate == 48_000 ? 0.005 : 0.02));
    }

    @Nested
    class Tech_3341 {
        @ParameterizedTest
        @ValueSource(ints = {44_100, 48_000, 96_000})
        void test_1_and_2_steady_tones_read_their_level_everywhere(int rate) {
            for (double level : new double[] {-23, -33}) {
                LevelSeries series = tones(rate, level, 20);
                assertThat(Loudness.integratedLufs(series)).as("I").isCloseTo(level, within(TOLERANCE_LU));
                assertThat(Loudness.momentaryMaxLufs(series)).as("M").isCloseTo(level, within(TOLERANCE_LU));
                assertThat(Loudness.shortTermMaxLufs(series)).as("S").isCloseTo(level, within(TOLERANCE_LU));
            }
        }

        @ParameterizedTest
        @ValueSource(ints = {44_100, 48_000, 96_000})
        void test_3_quiet_ends_do_not_count(int rate) {
            LevelSeries series = tones(rate, -36, 10, -23, 60, -36, 10);
            assertThat(Loudness.integratedLufs(series)).isCloseTo(-23, within(TOLERANCE_LU));
        }

        @ParameterizedTest
        @ValueSource(ints = {44_100, 48_000, 96_000})
        void test_4_very_quiet_ends_do_not_count_either(int rate) {
            LevelSeries series = tones(rate, -72, 10, -36, 10, -23, 60, -36, 10, -72, 10);
            assertThat(Loudness.integratedLufs(series)).isCloseTo(-23, within(TOLERANCE_LU));
        }

        @ParameterizedTest
        @ValueSource(ints = {44_100, 48_000, 96_000})
        void test_5_louder_and_quieter_parts_balance(int rate) {
            LevelSeries series = tones(rate, -26, 20, -20, 20.1, -26, 20);
            assertThat(Loudness.integratedLufs(series)).isCloseTo(-23, within(TOLERANCE_LU));
        }

        @ParameterizedTest
        @ValueSource(ints = {44_100, 48_000, 96_000})
        void test_9_short_term_of_a_pattern_stays(int rate) {
            double[] pattern = new double[20];
            for (int i = 0; i < 5; i++) {
                pattern[4 * i] = -20;
                pattern[4 * i + 1] = 1.34;
                pattern[4 * i + 2] = -30;
                pattern[4 * i + 3] = 1.66;
            }
            double[] readings = Loudness.shortTermLufs(tones(rate, pattern));
            for (double reading : readings) {
                assertThat(reading).isCloseTo(-23, within(TOLERANCE_LU));
            }
        }

        @ParameterizedTest
        @ValueSource(ints = {44_100, 48_000, 96_000})
        void test_12_momentary_of_a_pattern_stays(int rate) {
            double[] pattern = new double[100];
            for (int i = 0; i < 25; i++) {
                pattern[4 * i] = -20;
                pattern[4 * i + 1] = 0.18;
                pattern[4 * i + 2] = -30;
                pattern[4 * i + 3] = 0.22;
            }
            double[] readings = Loudness.momentaryLufs(tones(rate, pattern));
            for (double reading : readings) {
                assertThat(reading).isCloseTo(-23, within(TOLERANCE_LU));
            }
        }

        @ParameterizedTest
        @ValueSource(ints = {44_100, 48_000, 96_000})
        void test_13_a_single_burst_of_400_ms_reads_its_level_wherever_it_falls(int rate) {
            for (int i = 1; i <= 20; i++) {
                float[] burst = joined(silence(rate, i * 0.02), sine(1_000, -23, rate, 0.4), silence(rate, 1));
                assertThat(Loudness.momentaryMaxLufs(bothSides(rate, burst)))
                        .as("burst %d", i)
                        .isCloseTo(-23, within(TOLERANCE_LU));
            }
        }
    }

    @ParameterizedTest
    @CsvSource({"-20, -30, 10", "-20, -15, 5", "-40, -20, 20"})
    void Tech_3342_two_levels_of_20_s_each_have_their_distance_as_range(double first, double second, double range) {
        for (int rate : new int[] {44_100, 48_000, 96_000}) {
            assertThat(Loudness.rangeLu(tones(rate, first, 20, second, 20)))
                    .as("at %d Hz", rate)
                    .isCloseTo(range, within(0.1));
        }
    }

    @ParameterizedTest
    @ValueSource(ints = {44_100, 48_000, 96_000})
    void Tech_3342_test_4_what_is_far_below_does_not_widen_the_range(int rate) {
        LevelSeries series = tones(rate, -50, 20, -35, 20, -20, 20, -35, 20, -50, 20);
        assertThat(Loudness.rangeLu(series)).isCloseTo(15, within(0.1));
    }

    @Test
    void silence_reads_minus_infinity_and_has_no_range() {
        LevelSeries series = bothSides(48_000, silence(48_000, 5));
        assertThat(Loudness.integratedLufs(series)).isEqualTo(Double.NEGATIVE_INFINITY);
        assertThat(Loudness.rangeLu(series)).isZero();
    }

    @Test
    void a_signal_shorter_than_a_block_has_no_loudness() {
        assertThat(Loudness.integratedLufs(bothSides(48_000, sine(1_000, -10, 48_000, 0.39))))
                .isEqualTo(Double.NEGATIVE_INFINITY);
    }
}
