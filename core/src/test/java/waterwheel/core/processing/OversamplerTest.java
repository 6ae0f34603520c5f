package waterwheel.core.processing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import java.util.Random;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class OversamplerTest {
    private static final int FRAMES = 2_000;
    /** Until then the filters meet what was before the song, which is silence. */
    private static final int SETTLED = 60;

    private static final Oversampler.Shape NOTHING = (values, frames) -> {};

    /** A sine between the samples is the same sine at another phase: no figure of the filter is in this. */
    @ParameterizedTest
    @ValueSource(doubles = {0.01, 0.1, 0.2, 0.3, 0.4})
    void what_is_shaped_is_the_signal_at_four_times_the_rate(double cyclesPerFrame) {
        float[] signal = sine(cyclesPerFrame);
        float[][] met = new float[Oversampler.FACTOR][];
        int[] phases = {0};

        new Oversampler(FRAMES)
                .process(signal, FRAMES, (values, frames) -> met[phases[0]++] = Arrays.copyOf(values, frames));

        assertThat(phases[0]).isEqualTo(Oversampler.FACTOR);
        for (int phase = 0; phase < Oversampler.FACTOR; phase++) {
            for (int i = SETTLED; i < FRAMES; i++) {
                double frame = i + (double) phase / Oversampler.FACTOR - Oversampler.LATENCY_BETWEEN;
                assertThat((double) met[phase][i])
                        .as("frame %s, phase %s", i, phase)
                        .isCloseTo(sine(frame, cyclesPerFrame), within(0.0015));
            }
        }
    }

    /** Twice a filter that is flat within 0.02 dB, which is 0.23 %. */
    @ParameterizedTest
    @ValueSource(doubles = {0.01, 0.1, 0.2, 0.3, 0.4})
    void what_nothing_shapes_comes_out_as_it_was_and_later(double cyclesPerFrame) {
        float[] signal = sine(cyclesPerFrame);

        new Oversampler(FRAMES).process(signal, FRAMES, NOTHING);

        for (int i = SETTLED; i < FRAMES; i++) {
            assertThat((double) signal[i])
                    .as("frame %s", i)
                    .isCloseTo(sine(i - Oversampler.LATENCY_FRAMES, cyclesPerFrame), within(0.0025));
        }
    }

    /** Of 0.38 of the rate a square has the double, 0.76, which folds to 0.24 where it is not taken away. */
    @Test
    void what_shaping_adds_above_half_the_rate_does_not_fold_back() {
        float[] signal = sine(0.38);

        new Oversampler(FRAMES).process(signal, FRAMES, (values, frames) -> {
            for (int i = 0; i < frames; i++) {
                values[i] *= values[i];
            }
        });

        double re = 0;
        double im = 0;
        for (int i = 500; i < FRAMES; i++) {
            re += signal[i] * Math.cos(2 * Math.PI * 0.24 * i);
            im += signal[i] * Math.sin(2 * Math.PI * 0.24 * i);
        }
        double folded = 2 * Math.hypot(re, im) / (FRAMES - 500);
        // A sine of 0.5, squared, swings by 0.125 around 0.125.
        assertThat(20 * Math.log10(folded / 0.125)).isLessThan(-70);
        assertThat((double) signal[FRAMES - 1]).isCloseTo(0.125, within(0.001));
    }

    @Test
    void the_length_of_blocks_changes_no_bit() {
        Random random = new Random(5);
        float[] whole = new float[FRAMES];
        for (int i = 0; i < FRAMES; i++) {
            whole[i] = random.nextFloat() - 0.5f;
        }
        float[] parts = whole.clone();
        new Oversampler(FRAMES).process(whole, FRAMES, NOTHING);
        Oversampler oversampler = new Oversampler(500);
        for (int at = 0; at < FRAMES; ) {
            int count = Math.min(FRAMES - at, 1 + random.nextInt(500));
            float[] block = Arrays.copyOfRange(parts, at, at + count);
            oversampler.process(block, count, NOTHING);
            System.arraycopy(block, 0, parts, at, count);
            at += count;
        }
        assertThat(Arrays.mismatch(parts, whole)).isEqualTo(-1);
    }

    @Test
    void after_a_reset_nothing_is_left_of_what_came_before() {
        Oversampler oversampler = new Oversampler(256);
        float[] loud = new float[256];
        Arrays.fill(loud, 1);
        oversampler.process(loud, 256, NOTHING);

        oversampler.reset();
        float[] silence = new float[256];
        oversampler.process(silence, 256, NOTHING);

        assertThat(silence).containsOnly(0f);
    }

    private static float[] sine(double cyclesPerFrame) {
        float[] signal = new float[FRAMES];
        for (int i = 0; i < FRAMES; i++) {
            signal[i] = (float) sine(i, cyclesPerFrame);
        }
        return signal;
    }

    private static double sine(double frame, double cyclesPerFrame) {
        return 0.5 * Math.sin(2 * Math.PI * cyclesPerFrame * frame);
    }
}
