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
     * @param before where they write, or what is read where there are none: may be {@code out} where one gain is for all
     *     planes
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
        if (left > 0) {
            motion.fill(firstFrame - late, rows, 0, frames);
            goOver(firstFrame, Math.min(left, frames));
            byRows(0, frames);
            return;
        }
        long frame = firstFrame - late;
        int done = 0;
        if (frame < 0) {
            done = (int) Math.min(frames, -frame);
            motion.fill(frame, rows, 0, done);
            byRows(0, done);
        }
        while (done < frames) {
            int count = motion.next(frame + done, frames - done);
            if (motion.crosses(frame + done)) {
                motion.fill(frame + done, rows, done, count);
                byRows(done, count);
            } else {
                straight(done, count);
            }
            done += count;
        }
    }

    /** Multiplies by the gains of a straight stretch. */
    private void straight(int first, int count) {
        int offset = motion.offset();
        if (rows.length == 1) {
            for (int p = 0; p < out.length; p++) {
                times(before[p], out[p], motion.start(0), motion.step(0), offset, first, count);
            }
            return;
        }
        for (int to = 0; to < 2; to++) {
            int gain = to * before.length;
            int other = gain + before.length - 1;
            if (before.length == 1 || none(other)) {
                times(before[0], out[to], motion.start(gain), motion.step(gain), offset, first, count);
            } else if (none(gain)) {
                times(before[1], out[to], motion.start(other), motion.step(other), offset, first, count);
            } else {
                double left = motion.start(gain);
                double leftStep = motion.step(gain);
                double right = motion.start(other);
                double rightStep = motion.step(other);
                float[] l = before[0];
                float[] r = before[1];
                float[] mixed = out[to];
                for (int i = 0; i < count; i++) {
                    double k = MotionReader.INDEX[offset + i];
                    double fromLeft = Math.fma(leftStep, k, left) * l[first + i];
                    mixed[first + i] = (float) Math.fma(Math.fma(rightStep, k, right), (double) r[first + i], fromLeft);
                }
            }
        }
    }

    private boolean none(int gain) {
        return motion.start(gain) == 0 && motion.step(gain) == 0;
    }

    private static void times(float[] from, float[] to, double start, double step, int offset, int first, int count) {
        for (int i = 0; i < count; i++) {
            double gain = Math.fma(step, MotionReader.INDEX[offset + i], start);
            to[first + i] = (float) (gain * from[first + i]);
        }
    }

    private void byRows(int first, int frames) {
        if (rows.length == 1) {
            for (int p = 0; p < out.length; p++) {
                place(before[p], rows[0], out[p], first, frames);
            }
        } else if (before.length == 1) {
            place(before[0], rows[0], out[0], first, frames);
            place(before[0], rows[1], out[1], first, frames);
        } else {
            place(before[0], rows[0], before[1], rows[1], out[0], first, frames);
            place(before[0], rows[2], before[1], rows[3], out[1], first, frames);
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

    private static void place(float[] in, double[] row, float[] to, int first, int frames) {
        for (int i = first; i < first + frames; i++) {
            to[i] = (float) (row[i] * in[i]);
        }
    }

    private static void place(float[] l, double[] fromL, float[] r, double[] fromR, float[] to, int first, int frames) {
        for (int i = first; i < first + frames; i++) {
            to[i] = (float) Math.fma(fromR[i], (double) r[i], fromL[i] * l[i]);
        }
    }
}
