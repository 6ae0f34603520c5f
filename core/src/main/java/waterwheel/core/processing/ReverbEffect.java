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
    private static final int STRETCH = 64;
    /** Milliseconds at a size of 100 %. */
    private static final double[] LENGTHS_MS = {43.1, 51.7, 57.9, 66.3, 73.7, 82.9, 91.3, 101.9};

    private final float[][] lines = new float[LINES][];
    private final int[] at = new int[LINES];
    private final float[] keep = new float[LINES];
    private final float[] low = new float[LINES];
    private final float[][] out = new float[LINES][STRETCH];
    private final float[] in = new float[STRETCH];
    private final float[] sum = new float[STRETCH];
    private final float damping;
    private final float level;
    private final float[] before;
    private int beforeAt;

    ReverbEffect(Processor settings, int rate) {
        double size = settings.value("sizePercent") / 100;
        double decay = settings.value("decaySeconds");
        double energy = 0;
        for (int i = 0; i < LINES; i++) {
            int length = prime(Math.max(STRETCH, (int) Math.round(LENGTHS_MS[i] / 1_000 * size * rate)));
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

    /** In stretches no longer than the shortest line: what comes out of the lines is then known before it goes in. */
    @Override
    public void process(float[][] signal, float @Nullable [] @Nullable [] key, int frames) {
        float[] left = signal[0];
        float[] right = signal[signal.length - 1];
        for (int from = 0; from < frames; from += STRETCH) {
            int count = Math.min(STRETCH, frames - from);
            takeIn(left, right, from, count);
            for (int k = 0; k < LINES; k += 2) {
                comeOut(k, count);
            }
            mix(left, right, from, count);
            for (int k = 0; k < LINES; k++) {
                goIn(k, count);
            }
        }
    }

    private void takeIn(float[] left, float[] right, int from, int count) {
        for (int i = 0; i < count; i++) {
            in[i] = before[beforeAt];
            before[beforeAt] = 0.5f * (left[from + i] + right[from + i]);
            beforeAt = beforeAt + 1 == before.length ? 0 : beforeAt + 1;
        }
    }

    /** Two lines in one loop, because neither waits for the other. */
    private void comeOut(int k, int count) {
        float[] one = unrolled(k, count);
        float[] two = unrolled(k + 1, count);
        float a = low[k];
        float b = low[k + 1];
        final float d = damping;
        final float e = 1 - damping;
        for (int i = 0; i < count; i++) {
            a = d * a + e * one[i];
            b = d * b + e * two[i];
            one[i] = keep[k] * a;
            two[i] = keep[k + 1] * b;
        }
        low[k] = settled(a);
        low[k + 1] = settled(b);
    }

    /** The next values of a line in a row, whatever place in its ring they begin at. */
    private float[] unrolled(int k, int count) {
        float[] row = out[k];
        int first = Math.min(count, lines[k].length - at[k]);
        System.arraycopy(lines[k], at[k], row, 0, first);
        System.arraycopy(lines[k], 0, row, first, count - first);
        return row;
    }

    private static float settled(float value) {
        return Math.abs(value) < 1e-20f ? 0 : value;
    }

    private void mix(float[] left, float[] right, int from, int count) {
        for (int i = 0; i < count; i++) {
            float s0 = out[0][i];
            float s1 = out[1][i];
            float s2 = out[2][i];
            float s3 = out[3][i];
            float s4 = out[4][i];
            float s5 = out[5][i];
            float s6 = out[6][i];
            float s7 = out[7][i];
            sum[i] = in[i] - (s0 + s1 + s2 + s3 + s4 + s5 + s6 + s7) * (2f / LINES);
            right[from + i] = level * (s0 - s1 + s2 - s3 + s4 - s5 + s6 - s7);
            left[from + i] = level * (s0 + s1 - s2 - s3 + s4 + s5 - s6 - s7);
        }
    }

    private void goIn(int k, int count) {
        float[] row = out[k];
        for (int i = 0; i < count; i++) {
            row[i] += sum[i];
        }
        int first = Math.min(count, lines[k].length - at[k]);
        System.arraycopy(row, 0, lines[k], at[k], first);
        System.arraycopy(row, first, lines[k], 0, count - first);
        at[k] = (at[k] + count) % lines[k].length;
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
