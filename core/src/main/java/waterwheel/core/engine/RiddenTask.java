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
    private static final float NOTHING = 0;

    private final BlockTask[] inputs;
    private final float[][] before;
    private final float[][] out;
    private final int late;
    private final int gains;
    private final float[][] leavingRows;
    private MotionReader motion;
    private MotionReader leaving;
    private int moves;
    private int left;

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
        leavingRows = new float[gains][];
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
        float[][] rows = Rows.single(frames);
        motion.fill(firstFrame - late, rows, frames);
        if (left > 0) {
            goOver(firstFrame, rows, Math.min(left, frames), frames);
        }
        if (gains == 1) {
            for (int p = 0; p < out.length; p++) {
                place(before[p], rows, 0, out[p], frames);
            }
        } else if (before.length == 1) {
            place(before[0], rows, 0, out[0], frames);
            place(before[0], rows, 1, out[1], frames);
        } else if (isNone(1) && isNone(2)) {
            place(before[0], rows, 0, out[0], frames);
            place(before[1], rows, 3, out[1], frames);
        } else {
            complete(motion, rows, frames);
            mix(before[0], before[1], rows[0], rows[1], rows[2], rows[3], out[0], out[1], frames);
        }
    }

    private boolean isNone(int gain) {
        return motion.isSteady(gain) && motion.steady(gain) == 0;
    }

    private void place(float[] in, float[][] rows, int gain, float[] to, int frames) {
        if (!motion.isSteady(gain)) {
            place(in, rows[gain], to, frames);
        } else if (motion.steady(gain) == 0) {
            Arrays.fill(to, 0, frames, 0);
        } else {
            place(in, motion.steady(gain), to, frames);
        }
    }

    private void complete(MotionReader reader, float[][] rows, int frames) {
        for (int g = 0; g < gains; g++) {
            reader.complete(g, rows, frames);
        }
    }

    /** Comes from the gains of the motion before, in rows of their own, to those of the present one. */
    private void goOver(long firstFrame, float[][] rows, int going, int frames) {
        System.arraycopy(rows, gains, leavingRows, 0, gains);
        leaving.fill(firstFrame - late, leavingRows, going);
        complete(motion, rows, frames);
        complete(leaving, leavingRows, going);
        int gone = moves - left;
        for (int g = 0; g < gains; g++) {
            float[] row = rows[g];
            float[] old = leavingRows[g];
            for (int i = 0; i < going; i++) {
                row[i] = old[i] + (float) (gone + i) / moves * (row[i] - old[i]);
            }
        }
        left -= going;
    }

    private static void place(float[] in, float[] row, float[] to, int frames) {
        for (int i = 0; i < frames; i++) {
            to[i] = row[i] * in[i] + NOTHING;
        }
    }

    private static void place(float[] in, float gain, float[] to, int frames) {
        for (int i = 0; i < frames; i++) {
            to[i] = gain * in[i] + NOTHING;
        }
    }

    private static void mix(
            float[] left,
            float[] right,
            float[] leftToLeft,
            float[] rightToLeft,
            float[] leftToRight,
            float[] rightToRight,
            float[] toLeft,
            float[] toRight,
            int frames) {
        for (int i = 0; i < frames; i++) {
            float l = left[i];
            float r = right[i];
            toLeft[i] = rightToLeft[i] * r + leftToLeft[i] * l + NOTHING;
            toRight[i] = rightToRight[i] * r + leftToRight[i] * l + NOTHING;
        }
    }
}
