package waterwheel.core.processing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import com.sun.management.ThreadMXBean;
import java.lang.management.ManagementFactory;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.Processor;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.testing.Signals;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class ConvolutionTest {
    private static final int RATE = 48_000;

    private static Effect effect(@Nullable Response response, double preDelayMs, int planes, int block) {
        Processor settings = Processor.usual(Convolution.KIND).with("preDelayMs", preDelayMs);
        Insert insert = Insert.of(new SlotId("1"), Convolution.KIND).withProcessor(settings);
        return Effects.start(insert, new Site(RATE, planes, block, response));
    }

    /** The sum that defines a convolution, in double. */
    private static double convolved(float[] signal, float[] response, int frame) {
        double sum = 0;
        for (int k = 0; k < response.length && k <= frame; k++) {
            sum += (double) response[k] * signal[frame - k];
        }
        return sum;
    }

    private static double gain(float[]... response) {
        double energy = 0;
        for (float[] side : response) {
            for (float value : side) {
                energy += (double) value * value / response.length;
            }
        }
        return 1 / Math.sqrt(energy);
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 100, 128, 129, 512, 640, 4_095, 4_097, 14_000})
    void is_the_sum_of_products_whatever_the_length_of_the_response(int length) {
        float[] response = Signals.noise(0.5, length, 1);
        float[] signal = Signals.noise(0.5, 20_000, 2);
        float[][] out = {signal.clone()};
        effect(Response.of(new float[][] {response}), 0, 1, 20_000).process(out, null, 20_000);
        double gain = gain(response);
        for (int frame = 0; frame < 20_000; frame += 37) {
            // Signal of about 0.3: 120 dB under it.
            assertThat((double) out[0][frame])
                    .as("frame %d", frame)
                    .isCloseTo(gain * convolved(signal, response, frame), within(1e-6));
        }
    }

    @Test
    void left_goes_with_left_and_right_with_right_after_the_pre_delay() {
        float[] left = Signals.noise(0.5, 3_000, 1);
        float[] right = Signals.noise(0.5, 3_000, 2);
        float[][] out = new float[2][6_000];
        out[0][0] = 1;
        effect(Response.of(new float[][] {left, right}), 10, 2, 6_000).process(out, null, 6_000);
        double gain = gain(left, right);
        assertThat(out[1]).containsOnly(0f);
        for (int i = 0; i < 3_000; i++) {
            assertThat((double) out[0][480 + i]).isCloseTo(gain * left[i], within(1e-6));
        }
        assertThat(out[0][479]).isZero();
    }

    @Test
    void noise_comes_out_as_loud_as_it_goes_in() {
        float[] response = Signals.noise(0.1, 20_000, 5);
        float[][] out = {Signals.noise(0.5, 4 * RATE, 6)};
        double before = power(out[0], 2 * RATE);
        effect(Response.of(new float[][] {response}), 0, 1, 4 * RATE).process(out, null, 4 * RATE);
        assertThat(10 * Math.log10(power(out[0], 2 * RATE) / before)).isCloseTo(0, within(0.5));
    }

    private static double power(float[] signal, int from) {
        double sum = 0;
        for (int i = from; i < signal.length; i++) {
            sum += (double) signal[i] * signal[i];
        }
        return sum;
    }

    @Test
    void without_a_response_nothing_comes_out() {
        float[][] out = {Signals.noise(0.5, 500, 6)};
        effect(null, 0, 1, 500).process(out, null, 500);
        assertThat(out[0]).containsOnly(0f);
    }

    @Test
    void allocates_nothing_at_work() {
        Effect effect = effect(Response.of(new float[][] {Signals.noise(0.5, 30_000, 1)}), 0, 2, 256);
        float[][] block = {Signals.noise(0.5, 256, 2), Signals.noise(0.5, 256, 3)};
        ThreadMXBean threads = (ThreadMXBean) ManagementFactory.getThreadMXBean();
        for (int i = 0; i < 2_000; i++) {
            effect.process(block, null, 256);
        }
        long least = Long.MAX_VALUE;
        for (int round = 0; round < 5; round++) {
            long before = threads.getCurrentThreadAllocatedBytes();
            for (int i = 0; i < 100; i++) {
                effect.process(block, null, 256);
            }
            least = Math.min(least, threads.getCurrentThreadAllocatedBytes() - before);
        }
        assertThat(least).isZero();
    }
}
