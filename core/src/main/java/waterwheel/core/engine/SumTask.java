package waterwheel.core.engine;

import java.util.Arrays;

/**
 * Computes one plane of a sum: {@code out[i] = Σ gain_k · in_k[i]}, in double, in the order of the terms. While gains
 * are on their way to new ones they move by the same amount every sample.
 */
final class SumTask implements BlockTask {
    private final float[] out;
    private final double[] sums;
    private final float[][] inputs;
    private final double[] gains;
    private final double[] targets;
    private int rampLeft;

    /**
     * Makes the task of one plane.
     *
     * @param out written by every run
     * @param inputs the terms' input planes, read by every run
     * @param gains the terms' linear gains
     */
    SumTask(float[] out, float[][] inputs, double[] gains) {
        this.out = out;
        this.inputs = inputs;
        this.gains = gains.clone();
        targets = gains.clone();
        sums = new double[out.length];
    }

    /** Sends the gains on their way to new ones, which they reach after some frames. */
    void retarget(double[] newGains, int rampFrames) {
        System.arraycopy(newGains, 0, targets, 0, targets.length);
        if (rampFrames == 0) {
            System.arraycopy(newGains, 0, gains, 0, gains.length);
        }
        rampLeft = rampFrames;
    }

    @Override
    public void run(long firstFrame, int frames) {
        int ramped = Math.min(rampLeft, frames);
        if (ramped > 0) {
            ramp(ramped);
        }
        if (ramped < frames) {
            hold(ramped, frames);
        }
    }

    private void ramp(int frames) {
        Arrays.fill(sums, 0, frames, 0);
        for (int t = 0; t < inputs.length; t++) {
            float[] input = inputs[t];
            double start = gains[t];
            double step = (targets[t] - start) / rampLeft;
            for (int i = 0; i < frames; i++) {
                sums[i] += (start + step * (i + 1)) * input[i];
            }
            gains[t] = start + step * frames;
        }
        store(0, frames);
        rampLeft -= frames;
        if (rampLeft == 0) {
            System.arraycopy(targets, 0, gains, 0, gains.length);
        }
    }

    private void hold(int from, int to) {
        int t = 0;
        if (inputs.length >= 4) {
            start4(from, to);
            t = 4;
        } else {
            Arrays.fill(sums, from, to, 0);
        }
        for (; t + 4 <= inputs.length; t += 4) {
            add4(t, from, to);
        }
        for (; t < inputs.length; t++) {
            add1(inputs[t], gains[t], from, to);
        }
        store(from, to);
    }

    private void start4(int from, int to) {
        final double[] sum = sums;
        final float[] a = inputs[0];
        final float[] b = inputs[1];
        final float[] c = inputs[2];
        final float[] d = inputs[3];
        final double ga = gains[0];
        final double gb = gains[1];
        final double gc = gains[2];
        final double gd = gains[3];
        for (int i = from; i < to; i++) {
            sum[i] = ((ga * a[i] + gb * b[i]) + gc * c[i]) + gd * d[i];
        }
    }

    /** Four at a time, to load and store the sums a quarter as often; the order of additions stays the same. */
    private void add4(int t, int from, int to) {
        final double[] sum = sums;
        final float[] a = inputs[t];
        final float[] b = inputs[t + 1];
        final float[] c = inputs[t + 2];
        final float[] d = inputs[t + 3];
        final double ga = gains[t];
        final double gb = gains[t + 1];
        final double gc = gains[t + 2];
        final double gd = gains[t + 3];
        for (int i = from; i < to; i++) {
            sum[i] = (((sum[i] + ga * a[i]) + gb * b[i]) + gc * c[i]) + gd * d[i];
        }
    }

    private void add1(float[] input, double gain, int from, int to) {
        final double[] sum = sums;
        for (int i = from; i < to; i++) {
            sum[i] += gain * input[i];
        }
    }

    private void store(int from, int to) {
        final double[] sum = sums;
        final float[] target = out;
        for (int i = from; i < to; i++) {
            target[i] = (float) sum[i];
        }
    }
}
