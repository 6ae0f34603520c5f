package waterwheel.core.processing;

import java.util.Arrays;
import org.jspecify.annotations.Nullable;

/**
 * A reverb by a feedback delay network (Jot, Chaigne, Digital delay networks for designing artificial reverberators, 90th
 * AES Convention, 1991): eight delays of lengths without a common divisor, mixed by a Householder matrix, each turned
 * down so that sound falls by 60 dB in the decay time, through one-pole low-passes. Only the reverb comes out.
 */
final class ReverbEffect implements Effect {
    private static final int DECAY = Reverb.KIND.index("decaySeconds");
    private static final int PRE_DELAY = Reverb.KIND.index("preDelayMs");
    private static final int SIZE = Reverb.KIND.index("sizePercent");
    private static final int DAMPING = Reverb.KIND.index("dampingHz");

    private static final int LINES = 8;
    private static final int SHORTEST_LINE = 128;
    private static final int LONGEST_STRETCH = 512;
    /** Milliseconds at a size of 100 %. */
    private static final double[] LENGTHS_MS = {43.1, 51.7, 57.9, 66.3, 73.7, 82.9, 91.3, 101.9};

    private final float[][] lines = new float[LINES][];
    private final int[] at = new int[LINES];
    /** What goes in is multiplied by: the line's loss, and the low-pass's gain, which is so applied once. */
    private final float[] turnedDown = new float[LINES];

    private final float[] low = new float[LINES];
    /** No longer than the shortest line: what comes out of the lines is then known before it goes in. */
    private final int stretch;
    // Rows of a stretch. Loops are compiled to vector instructions only where all of them are at the same index.
    private final float[][] out;
    private final float[] in;
    private final float[] sum;
    private final float[] leftRow;
    private final float[] rightRow;
    private final int rate;
    private float damping;
    private final Glide level = new Glide(0);
    private final float[] levelRow;
    private final float[] before;
    private int beforeAt;

    ReverbEffect(double[] settings, int rate) {
        this.rate = rate;
        int[] lengths = lineFrames(settings[SIZE], rate);
        int shortest = LONGEST_STRETCH;
        for (int i = 0; i < LINES; i++) {
            lines[i] = new float[lengths[i]];
            shortest = Math.min(shortest, lengths[i]);
        }
        stretch = shortest;
        out = new float[LINES][stretch];
        in = new float[stretch];
        sum = new float[stretch];
        leftRow = new float[stretch];
        rightRow = new float[stretch];
        levelRow = new float[stretch];
        before = new float[Math.max(1, (int) Math.round(settings[PRE_DELAY] / 1_000 * rate))];
        move(settings, 0);
    }

    /** What goes round may change at once: it is a small part of what is heard, and comes out later. */
    @Override
    public void move(double[] values, int frames) {
        double decay = values[DECAY];
        damping = (float) dampingPole(values[DAMPING], rate);
        double energy = 0;
        for (int i = 0; i < LINES; i++) {
            double keep = Math.pow(10, -3 * lines[i].length / (decay * rate));
            turnedDown[i] = (float) (keep * (1 - damping));
            energy += keep * keep / (1 - keep * keep) / LINES;
        }
        // The longer it rings, the more it is turned down, so that noise comes out within 2 dB as loud from 1 s on.
        level.to(1 / Math.sqrt(1 + energy), frames);
    }

    /** What each line's low-pass keeps of its last output. */
    static double dampingPole(double hertz, int rate) {
        return Math.exp(-2 * Math.PI * Math.min(hertz, 0.49 * rate) / rate);
    }

    /** How long the lines are. */
    static int[] lineFrames(double sizePercent, int rate) {
        double size = sizePercent / 100;
        int[] frames = new int[LINES];
        Arrays.setAll(
                frames, i -> prime(Math.max(SHORTEST_LINE, (int) Math.round(LENGTHS_MS[i] / 1_000 * size * rate))));
        return frames;
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
        for (int from = 0; from < frames; from += stretch) {
            int count = Math.min(stretch, frames - from);
            takeIn(left, right, from, count);
            comeOut(count);
            mix(left, right, from, count);
            for (int k = 0; k < LINES; k++) {
                goIn(k, count);
            }
        }
    }

    /** What went in as long ago as the pre-delay comes out of its ring, and the present goes in. */
    private void takeIn(float[] left, float[] right, int from, int count) {
        System.arraycopy(left, from, leftRow, 0, count);
        System.arraycopy(right, from, rightRow, 0, count);
        final float[] middle = sum;
        final float[] l = leftRow;
        final float[] r = rightRow;
        for (int i = 0; i < count; i++) {
            middle[i] = 0.5f * (l[i] + r[i]);
        }
        for (int done = 0; done < count; ) {
            int some = Math.min(count - done, before.length - beforeAt);
            System.arraycopy(before, beforeAt, in, done, some);
            System.arraycopy(middle, done, before, beforeAt, some);
            beforeAt = beforeAt + some == before.length ? 0 : beforeAt + some;
            done += some;
        }
    }

    /** All lines in one loop, because none waits for another. What goes into a line is already turned down. */
    private void comeOut(int count) {
        for (int k = 0; k < LINES; k++) {
            unroll(k, count);
        }
        final float[] r0 = out[0];
        final float[] r1 = out[1];
        final float[] r2 = out[2];
        final float[] r3 = out[3];
        final float[] r4 = out[4];
        final float[] r5 = out[5];
        final float[] r6 = out[6];
        final float[] r7 = out[7];
        final float d = damping;
        float y0 = low[0];
        float y1 = low[1];
        float y2 = low[2];
        float y3 = low[3];
        float y4 = low[4];
        float y5 = low[5];
        float y6 = low[6];
        float y7 = low[7];
        for (int i = 0; i < count; i++) {
            r0[i] = y0 = Math.fma(d, y0, r0[i]);
            r1[i] = y1 = Math.fma(d, y1, r1[i]);
            r2[i] = y2 = Math.fma(d, y2, r2[i]);
            r3[i] = y3 = Math.fma(d, y3, r3[i]);
            r4[i] = y4 = Math.fma(d, y4, r4[i]);
            r5[i] = y5 = Math.fma(d, y5, r5[i]);
            r6[i] = y6 = Math.fma(d, y6, r6[i]);
            r7[i] = y7 = Math.fma(d, y7, r7[i]);
        }
        low[0] = settled(y0);
        low[1] = settled(y1);
        low[2] = settled(y2);
        low[3] = settled(y3);
        low[4] = settled(y4);
        low[5] = settled(y5);
        low[6] = settled(y6);
        low[7] = settled(y7);
    }

    /** The next values of a line in a row, whatever place in its ring they begin at. */
    private void unroll(int k, int count) {
        int first = Math.min(count, lines[k].length - at[k]);
        System.arraycopy(lines[k], at[k], out[k], 0, first);
        System.arraycopy(lines[k], 0, out[k], first, count - first);
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
        level.fill(levelRow, count);
        for (int i = 0; i < count; i++) {
            float s0 = r0[i] + r1[i];
            float s1 = r2[i] + r3[i];
            float s2 = r4[i] + r5[i];
            float s3 = r6[i] + r7[i];
            sum[i] = in[i] - (s0 + s1 + s2 + s3) * (2f / LINES);
            leftRow[i] = levelRow[i] * (s0 - s1 + s2 - s3);
        }
        for (int i = 0; i < count; i++) {
            rightRow[i] = levelRow[i] * (r0[i] - r1[i] + r2[i] - r3[i] + r4[i] - r5[i] + r6[i] - r7[i]);
        }
        System.arraycopy(leftRow, 0, left, from, count);
        System.arraycopy(rightRow, 0, right, from, count);
    }

    private void goIn(int k, int count) {
        final float[] row = out[k];
        final float gain = turnedDown[k];
        for (int i = 0; i < count; i++) {
            row[i] = gain * (row[i] + sum[i]);
        }
        int first = Math.min(count, lines[k].length - at[k]);
        System.arraycopy(row, 0, lines[k], at[k], first);
        System.arraycopy(row, first, lines[k], 0, count - first);
        at[k] = (at[k] + count) % lines[k].length;
    }

    @Override
    public void reset() {
        level.arrive();
        for (int k = 0; k < LINES; k++) {
            Arrays.fill(lines[k], 0);
        }
        Arrays.fill(at, 0);
        Arrays.fill(low, 0);
        Arrays.fill(before, 0);
        beforeAt = 0;
    }

    @Override
    public long memoryBytes() {
        return (long) Float.BYTES
                * (before.length
                        + Arrays.stream(lines).mapToInt(line -> line.length).sum());
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
