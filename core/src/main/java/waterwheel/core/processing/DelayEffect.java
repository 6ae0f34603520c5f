package waterwheel.core.processing;

import java.util.Arrays;
import org.jspecify.annotations.Nullable;

/**
 * Echoes: what comes out is the signal later, again and again through a one-pole low-pass; crossed, each side's echo is
 * the other side's. The signal as it came is what the slot's mix leaves of it.
 */
final class DelayEffect implements Effect {
    private static final int TIME = Delay.KIND.index("timeMs");
    private static final int FEEDBACK = Delay.KIND.index("feedbackPercent");
    private static final int DAMPING = Delay.KIND.index("dampingHz");
    private static final int SIDES = Delay.KIND.index("sides");

    private final int rate;
    private final float[][] memory;
    private final int length;
    private final Glide feedback;
    private final Glide damping;
    private final boolean crossed;
    private final float[] damped;
    private int at;

    DelayEffect(double[] settings, Site site) {
        rate = site.sampleRateHz();
        length = Math.max(1, (int) Math.round(settings[TIME] / 1_000 * rate));
        memory = new float[site.planes()][length];
        feedback = new Glide(settings[FEEDBACK] / 100);
        damping = new Glide(pole(settings));
        crossed = site.planes() == 2 && settings[SIDES] == 1;
        damped = new float[site.planes()];
    }

    private double pole(double[] settings) {
        return Math.exp(-2 * Math.PI * Math.min(settings[DAMPING], 0.49 * rate) / rate);
    }

    @Override
    public void move(double[] values, int frames) {
        feedback.to(values[FEEDBACK] / 100, frames);
        damping.to(pole(values), frames);
    }

    @Override
    public void process(float[][] signal, float @Nullable [] @Nullable [] key, int frames) {
        int last = memory.length - 1;
        for (int i = 0; i < frames; i++) {
            final float keep = (float) damping.next();
            final float back = (float) feedback.next();
            for (int p = 0; p <= last; p++) {
                damped[p] = keep * damped[p] + (1 - keep) * memory[p][at];
            }
            for (int p = 0; p <= last; p++) {
                float echo = memory[p][at];
                memory[p][at] = signal[p][i] + back * damped[crossed ? last - p : p];
                signal[p][i] = echo;
            }
            at = at + 1 == length ? 0 : at + 1;
        }
    }

    @Override
    public void reset() {
        feedback.arrive();
        damping.arrive();
        for (float[] plane : memory) {
            Arrays.fill(plane, 0);
        }
        Arrays.fill(damped, 0);
        at = 0;
    }

    @Override
    public long memoryBytes() {
        return (long) memory.length * length * Float.BYTES;
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
