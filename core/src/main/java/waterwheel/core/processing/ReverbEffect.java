package waterwheel.core.processing;

import java.util.Arrays;
import org.jspecify.annotations.Nullable;
import waterwheel.core.inserts.Processor;

/**
 * A reverb by a feedback delay network (Jot, Chaigne, Digital delay networks for designing artificial reverberators, 90th
 * AES Convention, 1991): eight delays of lengths without a common divisor, mixed by a Householder matrix, each turned
 * down so that sound falls by 60 dB in the decay time, through one-pole low-passes. Only the reverb comes out.
 */
final class ReverbEffect implements Effect {
    private static final int LINES = 8;
    /** Milliseconds at a size of 100 %. */
    private static final double[] LENGTHS_MS = {43.1, 51.7, 57.9, 66.3, 73.7, 82.9, 91.3, 101.9};

    private final float[][] lines = new float[LINES][];
    private final int[] at = new int[LINES];
    private final float[] keep = new float[LINES];
    private final float[] low = new float[LINES];
    private final float[] out = new float[LINES];
    private final float damping;
    private final float level;
    private final float[] before;
    private int beforeAt;

    ReverbEffect(Processor settings, int rate) {
        double size = settings.value("sizePercent") / 100;
        double decay = settings.value("decaySeconds");
        double energy = 0;
        for (int i = 0; i < LINES; i++) {
            int length = prime((int) Math.round(LENGTHS_MS[i] / 1_000 * size * rate));
            lines[i] = new float[length];
            keep[i] = (float) Math.pow(10, -3 * length / (decay * rate));
            energy += keep[i] * keep[i] / (1 - keep[i] * keep[i]) / LINES;
        }
        // As loud as the signal that feeds it, for noise.
        level = (float) (1 / Math.sqrt(1 + energy));
        damping = (float) Math.exp(-2 * Math.PI * Math.min(settings.value("dampingHz"), 0.49 * rate) / rate);
        before = new float[Math.max(1, (int) Math.round(settings.value("preDelayMs") / 1_000 * rate))];
    }

    private static int prime(int least) {
        int candidate = Math.max(3, least | 1);
        while (!isPrime(candidate)) {
            candidate += 2;
        }
        return candidate;
    }

    private static boolean isPrime(int odd) {
        for (int d = 3; d * d <= odd; d += 2) {
            if (odd % d == 0) {
                return false;
            }
        }
        return true;
    }

    @Override
    public void process(float[][] signal, float @Nullable [] @Nullable [] key, int frames) {
        float[] left = signal[0];
        float[] right = signal[signal.length - 1];
        for (int i = 0; i < frames; i++) {
            float in = before[beforeAt];
            before[beforeAt] = 0.5f * (left[i] + right[i]);
            beforeAt = beforeAt + 1 == before.length ? 0 : beforeAt + 1;
            float sum = 0;
            for (int k = 0; k < LINES; k++) {
                low[k] = damping * low[k] + (1 - damping) * lines[k][at[k]];
                out[k] = keep[k] * low[k];
                sum += out[k];
            }
            sum *= 2f / LINES;
            float l = 0;
            float r = 0;
            for (int k = 0; k < LINES; k++) {
                l += (k & 2) == 0 ? out[k] : -out[k];
                r += (k & 1) == 0 ? out[k] : -out[k];
                lines[k][at[k]] = in + out[k] - sum;
                at[k] = at[k] + 1 == lines[k].length ? 0 : at[k] + 1;
            }
            right[i] = level * r;
            left[i] = level * l;
        }
    }

    @Override
    public void reset() {
        for (int k = 0; k < LINES; k++) {
            Arrays.fill(lines[k], 0);
        }
        Arrays.fill(at, 0);
        Arrays.fill(low, 0);
        Arrays.fill(before, 0);
        beforeAt = 0;
    }

    @Override
    public void adopt(Effect other) {
        if (!(other instanceof ReverbEffect earlier) || earlier.before.length != before.length) {
            return;
        }
        for (int k = 0; k < LINES; k++) {
            if (earlier.lines[k].length != lines[k].length) {
                return;
            }
        }
        for (int k = 0; k < LINES; k++) {
            System.arraycopy(earlier.lines[k], 0, lines[k], 0, lines[k].length);
        }
        System.arraycopy(earlier.at, 0, at, 0, LINES);
        System.arraycopy(earlier.low, 0, low, 0, LINES);
        System.arraycopy(earlier.before, 0, before, 0, before.length);
        beforeAt = earlier.beforeAt;
    }
}
