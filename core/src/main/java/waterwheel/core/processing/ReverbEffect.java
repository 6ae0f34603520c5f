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
    private static final int STRETCH = 128;
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
            for (int k = 0; k < LINES; k += 4) {
                comeOut(k, count);
            }
            mix(left, right, from, count);
            for (int k = 0; k < LINES; k++) {
                goIn(k, count);
            }
        }
    }

    /** What went in as long ago as the pre-delay comes out of its ring, and the present goes in. */
    private void takeIn(float[] left, float[] right, int from, int count) {
        for (int done = 0; done < count; ) {
            int some = Math.min(count - done, before.length - beforeAt);
            System.arraycopy(before, beforeAt, in, done, some);
            for (int i = 0; i < some; i++) {
                before[beforeAt + i] = 0.5f * (left[from + done + i] + right[from + done + i]);
            }
            beforeAt = beforeAt + some == before.length ? 0 : beforeAt + some;
            done += some;
        }
    }

    /** Four lines in one loop, because none waits for another. */
    private void comeOut(int k, int count) {
        final float[] one = unrolled(k, count);
        final float[] two = unrolled(k + 1, count);
        final float[] three = unrolled(k + 2, count);
        final float[] four = unrolled(k + 3, count);
        final float keep1 = keep[k];
        final float keep2 = keep[k + 1];
        final float keep3 = keep[k + 2];
        final float keep4 = keep[k + 3];
        final float d = damping;
        final float e = 1 - damping;
        float a = low[k];
        float b = low[k + 1];
        float c = low[k + 2];
        float f = low[k + 3];
        for (int i = 0; i < count; i++) {
            a = Math.fma(d, a, e * one[i]);
            b = Math.fma(d, b, e * two[i]);
            c = Math.fma(d, c, e * three[i]);
            f = Math.fma(d, f, e * four[i]);
            one[i] = keep1 * a;
            two[i] = keep2 * b;
            three[i] = keep3 * c;
            four[i] = keep4 * f;
        }
        low[k] = settled(a);
        low[k + 1] = settled(b);
        low[k + 2] = settled(c);
        low[k + 3] = settled(f);
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
        final float[] r0 = out[0];
        final float[] r1 = out[1];
        final float[] r2 = out[2];
        final float[] r3 = out[3];
        final float[] r4 = out[4];
        final float[] r5 = out[5];
        final float[] r6 = out[6];
        final float[] r7 = out[7];
        for (int i = 0; i < count; i++) {
            float s0 = r0[i] + r1[i];
            float s1 = r2[i] + r3[i];
            float s2 = r4[i] + r5[i];
            float s3 = r6[i] + r7[i];
            sum[i] = in[i] - (s0 + s1 + s2 + s3) * (2f / LINES);
            left[from + i] = level * (s0 - s1 + s2 - s3);
        }
        for (int i = 0; i < count; i++) {
            right[from + i] = level * (r0[i] - r1[i] + r2[i] - r3[i] + r4[i] - r5[i] + r6[i] - r7[i]);
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
