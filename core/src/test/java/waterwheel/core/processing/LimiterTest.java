package waterwheel.core.processing;

import static org.assertj.core.api.Assertions.assertThat;
import static waterwheel.core.processing.EffectRuns.insert;
import static waterwheel.core.processing.EffectRuns.run;
import static waterwheel.core.processing.EffectRuns.settings;

import java.util.Arrays;
import java.util.SplittableRandom;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import waterwheel.core.inserts.Processor;
import waterwheel.core.metering.TruePeakMeter;
import waterwheel.core.testing.Signals;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class LimiterTest {
    private static final int BLOCK = 512;
    private static final double CEILING_DB = -3;

    /** What is hard to limit between the samples, by frame; loud and soft by turns, so that the gain has to move. */
    enum Hard {
        NOISE,
        RANDOM_SIGNS,
        RARE_SAMPLES,
        A_QUARTER_OF_THE_RATE,
        A_THIRD_OF_THE_RATE,
        NEAR_HALF_THE_RATE,
        SQUARES,
        BURSTS,
        SAMPLES_AROUND_SILENT_ONES;

        double at(int i) {
            return switch (this) {
                case NOISE -> random(i);
                case RANDOM_SIGNS -> Math.signum(random(i));
                case RARE_SAMPLES -> random(-i) > 0.99 ? random(i) : 0;
                case A_QUARTER_OF_THE_RATE -> loud(i, 1_500) * Math.sin(Math.PI / 2 * i + Math.PI / 4);
                case A_THIRD_OF_THE_RATE -> loud(i, 300) * Math.sin(2 * Math.PI / 3 * i + 1);
                case NEAR_HALF_THE_RATE -> loud(i, 700) * Math.sin(2 * Math.PI * 0.47 * i + 1);
                case SQUARES -> loud(i, 900) * (i / 23 % 2 == 0 ? 1 : -1);
                case BURSTS -> loud(i, 200) * Math.sin(0.65 * i);
                case SAMPLES_AROUND_SILENT_ONES -> Math.floorMod(i + 2, 16) < 4 ? 0 : 1 - i % 2 * 2;
            };
        }

        private static double random(int frame) {
            return new SplittableRandom(frame).split().nextDouble() * 2 - 1;
        }

        private static double loud(int frame, int length) {
            return frame / length % 2 == 0 ? 1 : 0.05;
        }
    }

    @ParameterizedTest
    @EnumSource
    void the_true_peak_is_at_its_ceiling_but_for_what_the_moving_gain_adds(Hard hard) {
        for (int rate : new int[] {44_100, 48_000, 96_000}) {
            for (double driveDb : new double[] {0, 6, 24}) {
                for (double releaseMs : new double[] {5, 100}) {
                    Processor limiter =
                            settings(Limiter.KIND, "ceilingDb", CEILING_DB, "gainDb", driveDb, "releaseMs", releaseMs);
                    String what = rate + " Hz, drive " + driveDb + " dB, release " + releaseMs + " ms";
                    assertThat(overDb(limiter.with("lookAheadMs", 0.5), hard, rate))
                            .as(what)
                            .isLessThan(0.1);
                    assertThat(overDb(limiter.with("lookAheadMs", 2), hard, rate))
                            .as(what)
                            .isLessThan(0.02);
                }
            }
        }
    }

    /** By how much the true peak lies above the ceiling, dB. */
    private static double overDb(Processor limiter, Hard hard, int rate) {
        // Silence at the end, so that what was held up comes out.
        float[] signal = new float[rate / 2 + 2_048];
        for (int i = 0; i < rate / 2; i++) {
            signal[i] = (float) hard.at(i);
        }
        run(Effects.start(insert(limiter), new Site(rate, 1, BLOCK, null)), BLOCK, signal);
        TruePeakMeter meter = new TruePeakMeter(rate);
        meter.process(signal, 0, signal.length);
        return 20 * Math.log10(meter.maximum()) - CEILING_DB;
    }

    @Test
    void what_is_too_loud_comes_up_to_the_ceiling() {
        Processor limiter = settings(Limiter.KIND, "ceilingDb", CEILING_DB, "gainDb", 12);
        assertThat(overDb(limiter, Hard.NOISE, 48_000)).isGreaterThan(-0.1);
    }

    @Test
    void passes_what_lies_below_unchanged_and_as_late_as_it_says() {
        Processor usual = Processor.usual(Limiter.KIND);
        float[] soft = Signals.sine(997, -30, 48_000, 1);
        float[] out = run(Effects.start(insert(usual), new Site(48_000, 1, BLOCK, null)), BLOCK, soft.clone())[0];
        int late = Effects.latencyFrames(usual, 48_000);
        assertThat(Arrays.mismatch(out, late, out.length, soft, 0, soft.length - late))
                .isEqualTo(-1);
    }
}
