package waterwheel.core.processing;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import java.util.Random;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class DelayLineTest {
    private static final int FRAMES = 3_000;

    @ParameterizedTest
    @ValueSource(ints = {0, 1, 32, 255, 256, 257, 1_000, FRAMES + 5})
    void every_frame_comes_later_by_the_delay_whatever_the_blocks(int delay) {
        Random random = new Random(delay);
        float[] in = new float[FRAMES];
        for (int i = 0; i < FRAMES; i++) {
            in[i] = random.nextFloat();
        }
        for (int most : new int[] {1, 32, 256, 2_000}) {
            DelayLine line = new DelayLine(delay);
            float[] out = new float[FRAMES];
            for (int at = 0; at < FRAMES; ) {
                int count = Math.min(FRAMES - at, 1 + random.nextInt(most));
                float[] due = new float[count];
                line.process(Arrays.copyOfRange(in, at, at + count), due, count);
                System.arraycopy(due, 0, out, at, count);
                at += count;
            }
            for (int i = 0; i < FRAMES; i++) {
                assertThat(out[i]).as("frame %s", i).isEqualTo(i < delay ? 0 : in[i - delay]);
            }
        }
    }
}
