package waterwheel.core.engine;

import waterwheel.core.path.Motion;

/**
 * Computes a signal behind a gain that moves in time. While it plays, another motion may take the place of the one that
 * it has, in a straight line. One thread at a time; allocates nothing after construction.
 */
final class RiddenTask implements BlockTask {
    private final BlockTask[] inputs;
    private final float[][] before;
    private final float[][] out;
    private final int late;
    private final double[][] rows;
    private final double[][] leavingRows;
    private MotionReader motion;
    private MotionReader leaving;
    private int moves;
    private int left;

    /**
     * Makes the task of a signal.
     *
     * @param inputs compute the signal before the gain
     * @param before where they write: the same arrays as {@code out} where one gain is for all planes
     * @param late by how many frames it is late against the song
     */
    RiddenTask(Motion motion, BlockTask[] inputs, float[][] before, float[][] out, int late) {
        this.motion = new MotionReader(motion);
        this.leaving = this.motion;
        this.inputs = inputs;
        this.before = before;
        this.out = out;
        this.late = late;
        rows = new double[motion.gains()][out[0].length];
        leavingRows = new double[motion.gains()][out[0].length];
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
        motion.fill(firstFrame - late, rows, 0, frames);
        if (left > 0) {
            goOver(firstFrame, Math.min(left, frames));
        }
        if (rows.length == 1) {
            for (float[] plane : out) {
                times(plane, rows[0], frames);
            }
        } else if (before.length == 1) {
            place(before[0], rows[0], out[0], frames);
            place(before[0], rows[1], out[1], frames);
        } else {
            place(before[0], rows[0], before[1], rows[1], out[0], frames);
            place(before[0], rows[2], before[1], rows[3], out[1], frames);
        }
    }

    private void goOver(long firstFrame, int frames) {
        leaving.fill(firstFrame - late, leavingRows, 0, frames);
        int gone = moves - left;
        for (int g = 0; g < rows.length; g++) {
            double[] row = rows[g];
            double[] old = leavingRows[g];
            for (int i = 0; i < frames; i++) {
                row[i] = old[i] + (double) (gone + i) / moves * (row[i] - old[i]);
            }
        }
        left -= frames;
    }

    private static void times(float[] plane, double[] row, int frames) {
        for (int i = 0; i < frames; i++) {
            plane[i] = (float) (row[i] * plane[i]);
        }
    }

    private static void place(float[] in, double[] row, float[] to, int frames) {
        for (int i = 0; i < frames; i++) {
            to[i] = (float) (row[i] * in[i]);
        }
    }

    private static void place(float[] l, double[] fromL, float[] r, double[] fromR, float[] to, int frames) {
        for (int i = 0; i < frames; i++) {
            to[i] = (float) Math.fma(fromR[i], (double) r[i], fromL[i] * l[i]);
        }
    }
}
