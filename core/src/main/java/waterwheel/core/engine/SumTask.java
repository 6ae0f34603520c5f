package waterwheel.core.engine;

import java.util.Arrays;
import waterwheel.core.processing.Rows;

/**
 * Computes one plane of a sum: {@code out[i] = Σ gain_k · in_k[i]}, in double, in the order of the terms. A
 * product and its addition are rounded once ({@link Math#fma}), in each of the loops: otherwise a term's place in the
 * list would show in the last bit.
 */
final class SumTask implements BlockTask {
    private final float[] out;
    private final float[][] inputs;
    private final double[] gains;
    private int count;

    /**
     * Makes the task of one plane.
     *
     * @param out written by every run
     * @param inputs the terms' input planes, read by every run
     * @param gains the terms' linear gains
     */
    SumTask(float[] out, float[][] inputs, double[] gains) {
        this.out = out;
        this.inputs = inputs.clone();
        this.gains = gains.clone();
        count = inputs.length;
    }

    /** Takes the terms whose gains are not 0 from now on; no more than there were when the task was made. */
    void use(float[][] all, double[] allGains) {
        count = 0;
        for (int t = 0; t < all.length; t++) {
            if (allGains[t] != 0) {
                inputs[count] = all[t];
                gains[count++] = allGains[t];
            }
        }
    }

    @Override
    public void run(long firstFrame, int frames) {
        if (count == 0) {
            Arrays.fill(out, 0, frames, 0);
            return;
        } else if (count == 1) {
            only(inputs[0], gains[0], frames);
            return;
        }
        double[] sum = Rows.of(frames)[0];
        int t = 0;
        if (count >= 4) {
            start4(sum, frames);
            t = 4;
        } else {
            Arrays.fill(sum, 0, frames, 0);
        }
        for (; t + 4 <= count; t += 4) {
            add4(t, sum, frames);
        }
        for (; t < count - 1; t++) {
            add1(inputs[t], gains[t], sum, frames);
        }
        if (t < count) {
            addLast(inputs[t], gains[t], sum, frames);
        } else {
            store(sum, frames);
        }
    }

    /** A sum of one term. */
    private void only(float[] input, double gain, int frames) {
        if (gain == 1) {
            if (input != out) {
                System.arraycopy(input, 0, out, 0, frames);
            }
            return;
        }
        final float[] target = out;
        for (int i = 0; i < frames; i++) {
            target[i] = (float) (gain * input[i]);
        }
    }

    private void start4(double[] sum, int frames) {
        final float[] a = inputs[0];
        final float[] b = inputs[1];
        final float[] c = inputs[2];
        final float[] d = inputs[3];
        final double ga = gains[0];
        final double gb = gains[1];
        final double gc = gains[2];
        final double gd = gains[3];
        for (int i = 0; i < frames; i++) {
            sum[i] = Math.fma(gd, (double) d[i], Math.fma(gc, (double) c[i], Math.fma(gb, (double) b[i], ga * a[i])));
        }
    }

    /** Four at a time, to load and store the sums a quarter as often; the order of additions stays the same. */
    private void add4(int t, double[] sum, int frames) {
        final float[] a = inputs[t];
        final float[] b = inputs[t + 1];
        final float[] c = inputs[t + 2];
        final float[] d = inputs[t + 3];
        final double ga = gains[t];
        final double gb = gains[t + 1];
        final double gc = gains[t + 2];
        final double gd = gains[t + 3];
        for (int i = 0; i < frames; i++) {
            sum[i] = Math.fma(
                    gd,
                    (double) d[i],
                    Math.fma(gc, (double) c[i], Math.fma(gb, (double) b[i], Math.fma(ga, (double) a[i], sum[i]))));
        }
    }

    private static void add1(float[] input, double gain, double[] sum, int frames) {
        for (int i = 0; i < frames; i++) {
            sum[i] = Math.fma(gain, (double) input[i], sum[i]);
        }
    }

    /** The last term and the store in one go. */
    private void addLast(float[] input, double gain, double[] sum, int frames) {
        final float[] target = out;
        for (int i = 0; i < frames; i++) {
            target[i] = (float) Math.fma(gain, (double) input[i], sum[i]);
        }
    }

    private void store(double[] sum, int frames) {
        final float[] target = out;
        for (int i = 0; i < frames; i++) {
            target[i] = (float) sum[i];
        }
    }
}
