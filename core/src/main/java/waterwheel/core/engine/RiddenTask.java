package waterwheel.core.engine;

import java.util.Arrays;
import waterwheel.core.path.Motion;
import waterwheel.core.processing.Rows;

/**
 * Computes a signal behind a gain that moves in time. While it plays, another motion may take the place of the one that
 * it has, in a straight line. One thread at a time; allocates nothing after construction.
 */
final class RiddenTask implements BlockTask {
    /** Added to every product, so that silence is 0 and never -0, which what is left out would not be. */
    private static final double NOTHING = 0.0;

    private final BlockTask[] inputs;
    private final float[][] before;
    private final float[][] out;
    private final int late;
    private final int gains;
    private final double[][] leavingRows;
    private MotionReader motion;
    private MotionReader leaving;
    private int moves;
    private int left;
    /** Whether all rows of the present block are filled in, also where a gain is 0. */
    private boolean filled;

    /**
     * Makes the task of a signal.
     *
     * @param inputs compute the signal before the gain
     * @param before where they write, or what is read where there are none: may be {@code out} where they are as many
     * @param late by how many frames it is late against the song
     */
    RiddenTask(Motion motion, BlockTask[] inputs, float[][] before, float[][] out, int late) {
        this.motion = new MotionReader(motion);
        this.leaving = this.motion;
        this.inputs = inputs;
        this.before = before;
        this.out = out;
        this.late = late;
        gains = motion.gains();
        leavingRows = new double[gains][];
    }

    /** Goes over to another motion of as many gains, within some frames. */
    void use(MotionReader other, int frames) {
        leaving = motion;
        motion = other;
        moves = frames;
        left = frames;
    }

    @Override
    public void run(long firstFrame, int frames) {
        for (BlockTask input : inputs) {
            input.run(firstFrame, frames);
        }
        double[][] rows = Rows.of(frames);
        motion.fill(firstFrame - late, rows, frames);
        filled = left > 0;
        if (filled) {
            goOver(firstFrame, rows, Math.min(left, frames), frames);
        }
        if (gains == 1) {
            for (int p = 0; p < out.length; p++) {
                place(before[p], rows, 0, out[p], frames);
            }
        } else if (before.length == 1) {
            place(before[0], rows, 0, out[0], frames);
            place(before[0], rows, 1, out[1], frames);
        } else if (none(1) && none(2)) {
            place(before[0], rows, 0, out[0], frames);
            place(before[1], rows, 3, out[1], frames);
        } else {
            mix(rows, frames);
        }
    }

    /** Whether a gain is 0 all the time, and its row may hold anything. */
    private boolean none(int gain) {
        return !filled && motion.isNone(gain);
    }

    private void place(float[] in, double[][] rows, int gain, float[] to, int frames) {
        if (none(gain)) {
            Arrays.fill(to, 0, frames, 0);
        } else {
            place(in, rows[gain], to, frames);
        }
    }

    /** Mixes two planes to two, which may be the same. */
    private void mix(double[][] rows, int frames) {
        if (!filled) {
            motion.complete(rows, frames);
        }
        mix(before[0], before[1], rows[0], rows[1], rows[2], rows[3], out[0], out[1], frames);
    }

    /** Comes from the gains of the motion before, in rows of their own, to those of the present one. */
    private void goOver(long firstFrame, double[][] rows, int going, int frames) {
        System.arraycopy(rows, gains, leavingRows, 0, gains);
        leaving.fill(firstFrame - late, leavingRows, going);
        motion.complete(rows, frames);
        leaving.complete(leavingRows, going);
        int gone = moves - left;
        for (int g = 0; g < gains; g++) {
            double[] row = rows[g];
            double[] old = leavingRows[g];
            for (int i = 0; i < going; i++) {
                row[i] = old[i] + (double) (gone + i) / moves * (row[i] - old[i]);
            }
        }
        left -= going;
    }

    private static void place(float[] in, double[] row, float[] to, int frames) {
        for (int i = 0; i < frames; i++) {
            to[i] = (float) Math.fma(row[i], (double) in[i], NOTHING);
        }
    }

    private static void mix(
            float[] left,
            float[] right,
            double[] leftToLeft,
            double[] rightToLeft,
            double[] leftToRight,
            double[] rightToRight,
            float[] toLeft,
            float[] toRight,
            int frames) {
        for (int i = 0; i < frames; i++) {
            double l = left[i];
            double r = right[i];
            toLeft[i] = (float) Math.fma(rightToLeft[i], r, Math.fma(leftToLeft[i], l, NOTHING));
            toRight[i] = (float) Math.fma(rightToRight[i], r, Math.fma(leftToRight[i], l, NOTHING));
        }
    }
}
