package waterwheel.core.engine;

import java.util.Arrays;
import waterwheel.core.path.Motion;
import waterwheel.core.rides.Curve;

/**
 * Reads the gains of a motion frame by frame. At control points, which are the song's frames that divide by 32 and the
 * curves' own points, a gain is what the motion says; in between it runs straight. (Against a true line in dB it stays
 * within 0.01 dB up to 48 dB in 50 ms.) Where a curve jumps, the gain crosses over within 240 frames from there. What is
 * read hangs on the frame alone, not on how the song is divided. One thread at a time; allocates nothing after
 * construction.
 */
final class MotionReader {
    /** Frames between two control points. */
    static final int GRID = 32;
    /** Frames that a jump takes. */
    static final int CROSSING = 240;

    static final double[] INDEX = index();

    private final Motion.Reader motion;
    /** The curves' own points, by frame. */
    private final long[] points;
    /** Those at which the gains jump, and what they are as the jump begins: of a jump before, perhaps not all. */
    private final long[] jumps;

    private final double[][] starts;
    private final double[] from;
    private final double[] to;
    /** Where {@link #to} was read, to be read once. */
    private long read = -1;

    /** By how much each gain moves at each frame of the stretch. */
    private final double[] steps;

    private int offset;
    private int lastPoint = -1;
    private int lastJump = -1;

    MotionReader(Motion motion) {
        this.motion = motion.reader();
        points = Curve.frames(motion.curves().stream());
        from = new double[motion.gains()];
        to = new double[motion.gains()];
        steps = new double[motion.gains()];
        jumps = Arrays.stream(points).filter(this::jumps).toArray();
        starts = new double[jumps.length][motion.gains()];
        for (int j = 0; j < jumps.length; j++) {
            this.motion.read(jumps[j], true, starts[j]);
            if (j > 0 && jumps[j] - jumps[j - 1] < CROSSING) {
                double way = (double) (jumps[j] - jumps[j - 1]) / CROSSING;
                for (int g = 0; g < from.length; g++) {
                    starts[j][g] = starts[j - 1][g] + way * (starts[j][g] - starts[j - 1][g]);
                }
            }
        }
    }

    private static double[] index() {
        double[] numbers = new double[GRID];
        Arrays.setAll(numbers, i -> i);
        return numbers;
    }

    /** The place in growing frames of the last one that is not after a frame, or -1; quick where they follow. */
    private static int last(long[] frames, long frame, int guess) {
        int at = Math.min(guess, frames.length - 1);
        while (at + 1 < frames.length && frames[at + 1] <= frame) {
            at++;
        }
        while (at >= 0 && frames[at] > frame) {
            at--;
        }
        return at;
    }

    private boolean jumps(long frame) {
        motion.read(frame, true, from);
        motion.read(frame, false, to);
        return !Arrays.equals(from, to);
    }

    /**
     * Reads the gains of consecutive frames.
     *
     * @param songFrame the first one's frame of the song; before 0 everything stands as at 0
     * @param rows filled in, linear: {@code rows[gain][first .. first + frames)}
     */
    void fill(long songFrame, double[][] rows, int first, int frames) {
        int done = 0;
        if (songFrame < 0) {
            done = (int) Math.min(frames, -songFrame);
            motion.read(0, false, from);
            read = -1;
            for (int g = 0; g < from.length; g++) {
                Arrays.fill(rows[g], first, first + done, from[g]);
            }
        }
        while (done < frames) {
            done += stretch(songFrame + done, rows, first + done, frames - done);
        }
    }

    /** Reads up to the next control point; returns how many frames that were. */
    private int stretch(long frame, double[][] rows, int first, int most) {
        int count = next(frame, most);
        for (int g = 0; g < from.length; g++) {
            double step = steps[g];
            double start = from[g];
            double[] row = rows[g];
            for (int i = 0; i < count; i++) {
                row[first + i] = Math.fma(step, INDEX[offset + i], start);
            }
        }
        cross(frame, rows, first, count);
        return count;
    }

    /**
     * Goes to a frame of the song from 0 on, in the straight stretch that it lies in.
     *
     * @return how many frames from there on the stretch goes on, at most as many as are wanted
     */
    int next(long frame, int most) {
        int last = last(points, frame, lastPoint);
        lastPoint = last;
        long begin = frame - frame % GRID;
        long end = begin + GRID;
        if (last >= 0) {
            begin = Math.max(begin, points[last]);
        }
        if (last + 1 < points.length) {
            end = Math.min(end, points[last + 1]);
        }
        if (read == begin) {
            for (int g = 0; g < from.length; g++) {
                from[g] = to[g];
            }
        } else {
            motion.read(begin, false, from);
        }
        motion.read(end, true, to);
        double part = 1.0 / (end - begin);
        for (int g = 0; g < from.length; g++) {
            steps[g] = (to[g] - from[g]) * part;
        }
        lastJump = last(jumps, frame, lastJump);
        boolean jumpsNext = lastJump + 1 < jumps.length && jumps[lastJump + 1] == end;
        int count = (int) Math.min(most, end - frame);
        // A jump stands at a control point of its own, where the next stretch must look again; so must the rest of this
        // one.
        read = jumpsNext || count < end - frame ? -1 : end;
        offset = (int) (frame - begin);
        return count;
    }

    /** Whether a jump is being crossed at the frame that was gone to. */
    boolean crosses(long frame) {
        return lastJump >= 0 && frame - jumps[lastJump] < CROSSING;
    }

    /** A gain at the beginning of the present stretch, linear. */
    double start(int gain) {
        return from[gain];
    }

    /** By how much it moves at each frame. */
    double step(int gain) {
        return steps[gain];
    }

    /** How far into the stretch the frame that was gone to lies. */
    int offset() {
        return offset;
    }

    private void cross(long frame, double[][] rows, int first, int count) {
        if (!crosses(frame)) {
            return;
        }
        int jump = lastJump;
        int crossing = (int) Math.min(count, jumps[jump] + CROSSING - frame);
        for (int g = 0; g < from.length; g++) {
            double start = starts[jump][g];
            for (int i = 0; i < crossing; i++) {
                double way = (double) (frame + i - jumps[jump]) / CROSSING;
                rows[g][first + i] = start + way * (rows[g][first + i] - start);
            }
        }
    }
}
