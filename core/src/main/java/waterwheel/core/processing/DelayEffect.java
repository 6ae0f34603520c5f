package waterwheel.core.processing;

import java.util.Arrays;
import org.jspecify.annotations.Nullable;
import waterwheel.core.inserts.Processor;

/**
 * Echoes: what comes out is the signal later, again and again through a one-pole low-pass; crossed, each side's echo is
 * the other side's. The signal as it came is what the slot's mix leaves of it.
 */
final class DelayEffect implements Effect {
    private final float[][] memory;
    private final int length;
    private final float feedback;
    private final float damping;
    private final boolean crossed;
    private final float[] damped;
    private int at;

    DelayEffect(Processor settings, int rate, int planes) {
        length = Math.max(1, (int) Math.round(settings.value("timeMs") / 1_000 * rate));
        memory = new float[planes][length];
        feedback = (float) (settings.value("feedbackPercent") / 100);
        damping = (float) Math.exp(-2 * Math.PI * Math.min(settings.value("dampingHz"), 0.49 * rate) / rate);
        crossed = planes == 2 && settings.choice("sides") == 1;
        damped = new float[planes];
    }

    @Override
    public void process(float[][] signal, float @Nullable [] @Nullable [] key, int frames) {
        int last = memory.length - 1;
        for (int i = 0; i < frames; i++) {
            for (int p = 0; p <= last; p++) {
                damped[p] = damping * damped[p] + (1 - damping) * memory[p][at];
            }
            for (int p = 0; p <= last; p++) {
                float echo = memory[p][at];
                memory[p][at] = signal[p][i] + feedback * damped[crossed ? last - p : p];
                signal[p][i] = echo;
            }
            at = at + 1 == length ? 0 : at + 1;
        }
    }

    @Override
    public void reset() {
        for (float[] plane : memory) {
            Arrays.fill(plane, 0);
        }
        Arrays.fill(damped, 0);
        at = 0;
    }

    @Override
    public void adopt(Effect other) {
        if (other instanceof DelayEffect before && before.length == length && before.memory.length == memory.length) {
            for (int p = 0; p < memory.length; p++) {
                System.arraycopy(before.memory[p], 0, memory[p], 0, length);
            }
            System.arraycopy(before.damped, 0, damped, 0, damped.length);
            at = before.at;
        }
    }
}
