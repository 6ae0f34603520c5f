package waterwheel.core.processing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import java.util.Random;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class FineDelayTest {
    private static final int FRAMES = 2_000;

    /** A sine that comes later is the same sine at an earlier phase: no figure of the filter is in this. */
    @ParameterizedTest
    @CsvSource({"0.25, 0.01", "0.5, 0.1", "3.75, 0.2", "17.01, 0.3", "100.5, 0.4", "7, 0.45"})
    void a_sine_comes_later_by_the_frames_asked_for_and_those_of_the_filter(double delay, double cyclesPerFrame) {
        FineDelay fine = new FineDelay(delay, FRAMES);
        float[] signal = new float[FRAMES];
        for (int i = 0; i < FRAMES; i++) {
            signal[i] = (float) sine(i, cyclesPerFrame);
        }

        fine.process(signal, FRAMES);

        double late = delay + fine.latencyFrames();
        assertThat(fine.latencyFrames()).isEqualTo(FineDelay.latencyFrames(delay));
        // The first frames meet what was before the song, which is silence.
        for (int i = (int) late + 40; i < FRAMES; i++) {
            assertThat((double) signal[i]).as("frame %s", i).isCloseTo(sine(i - late, cyclesPerFrame), within(1e-3));
        }
    }

    @ParameterizedTest
    @ValueSource(doubles = {0, 0.3, 5.5, 300})
    void the_length_of_blocks_changes_no_bit(double delay) {
        Random random = new Random(5);
        float[] whole = new float[FRAMES];
        for (int i = 0; i < FRAMES; i++) {
            whole[i] = random.nextFloat() - 0.5f;
        }
        float[] parts = whole.clone();
        new FineDelay(delay, FRAMES).process(whole, FRAMES);
        FineDelay fine = new FineDelay(delay, 500);
        for (int at = 0; at < FRAMES; ) {
            int count = Math.min(FRAMES - at, 1 + random.nextInt(500));
            float[] block = Arrays.copyOfRange(parts, at, at + count);
            fine.process(block, count);
            System.arraycopy(block, 0, parts, at, count);
            at += count;
        }
        assertThat(Arrays.mismatch(parts, whole)).isEqualTo(-1);
    }

    @Test
    void after_a_reset_nothing_is_left_of_what_came_before() {
        FineDelay fine = new FineDelay(2.5, 256);
        float[] loud = new float[256];
        Arrays.fill(loud, 1);
        fine.process(loud, 256);

        fine.reset();
        float[] silence = new float[256];
        fine.process(silence, 256);

        assertThat(silence).containsOnly(0f);
    }

    private static double sine(double frame, double cyclesPerFrame) {
        return 0.5 * Math.sin(2 * Math.PI * cyclesPerFrame * frame);
    }
}
