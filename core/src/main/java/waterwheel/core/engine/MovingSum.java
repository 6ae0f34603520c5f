package waterwheel.core.engine;

import java.util.Arrays;
import waterwheel.core.processing.Rows;

/**
 * Computes one plane of a sum whose gains move while it plays: in straight lines from frame to frame, and otherwise as
 * {@link SumTask} does. One thread at a time; allocates nothing after construction.
 */
final class MovingSum implements BlockTask {
    private final float[] out;
    private final float[][] inputs;
    private final SumTask still;
    private final double[] gains;
    private double[] goal;
    private int moves;
    private int left;

    /**
     * Makes the task of one plane.
     *
     * @param inputs the terms' input planes, those of a gain of 0 among them
     */
    MovingSum(float[] out, float[][] inputs, double[] gains) {
        this.out = out;
        this.inputs = inputs;
        this.gains = gains.clone();
        goal = this.gains;
        still = new SumTask(out, inputs, gains);
        still.use(inputs, gains);
    }

    /**
     * Goes to other gains from where they stand.
     *
     * @param to not changed any more by the caller
     * @param frames after how many they are there
     */
    void move(double[] to, int frames) {
        if (left > 0) {
            double part = (double) (moves - left) / moves;
            for (int t = 0; t < gains.length; t++) {
                gains[t] += part * (goal[t] - gains[t]);
            }
        }
        goal = to;
        moves = frames;
        left = Arrays.equals(gains, to) ? 0 : frames;
        if (left == 0) {
            still.use(inputs, gains);
        }
    }

    @Override
    public void run(long firstFrame, int frames) {
        if (left == 0) {
            still.run(firstFrame, frames);
            return;
        }
        int moving = Math.min(left, frames);
        int done = moves - left;
        double[] sums = Rows.of(frames)[0];
        Arrays.fill(sums, 0, frames, 0);
        for (int t = 0; t < gains.length; t++) {
            double step = (goal[t] - gains[t]) / moves;
            double from = gains[t] + step * done;
            if (gains[t] != 0 || goal[t] != 0) {
                add(inputs[t], from, step, sums, moving);
                add(inputs[t], goal[t], sums, moving, frames);
            }
        }
        for (int i = 0; i < frames; i++) {
            out[i] = (float) sums[i];
        }
        left -= moving;
        if (left == 0) {
            System.arraycopy(goal, 0, gains, 0, gains.length);
            still.use(inputs, gains);
        }
    }

    private static void add(float[] input, double from, double step, double[] sums, int frames) {
        for (int i = 0; i < frames; i++) {
            sums[i] = Math.fma(from + step * i, (double) input[i], sums[i]);
        }
    }

    private static void add(float[] input, double gain, double[] sums, int first, int end) {
        for (int i = first; i < end; i++) {
            sums[i] = Math.fma(gain, (double) input[i], sums[i]);
        }
    }
}
