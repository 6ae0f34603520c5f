package waterwheel.core.engine;

import java.util.Arrays;
import java.util.stream.IntStream;
import waterwheel.core.path.Motion;

/**
 * Reads the gains of a motion frame by frame. At control points, which are the song's frames that divide by 32 and the
 * curves' own points, a gain is what the motion says; in between it runs straight. (Against a true line in dB it stays
 * within 0.01 dB up to 48 dB in 50 ms.) Where a curve jumps, the gain crosses over within 240 frames from there. What is
 * read hangs on the frame alone, not on how the song is divided. One thread at a time; allocates nothing after
 * construction.
 */
final class MotionReader {
    private static final int GRID = ControlPoints.GRID;
    /** Frames that a jump takes. */
    static final int CROSSING = 240;

    /** So many stretches between control points are read at a time. */
    private static final int MOST = 128;

    private static final double[] INDEX =
            IntStream.range(0, GRID).asDoubleStream().toArray();

    private final Motion.Reader motion;
    private final ControlPoints points;
    /** Those at which the gains jump, and what they are as the jump begins: of a jump before, perhaps not all. */
    private final long[] jumps;

    private final double[][] starts;
    /** Control points, and what the gains come to at each and go on from. */
    private final long[] controls = new long[MOST + 1];

    private final double[][] came;
    private final double[][] went;
    /** A single control point, and what the gains go on from there. */
    private final long[] single = new long[1];

    private final double[][] left;

    /** Whether a gain was 0 at all frames that were read last. */
    private final boolean[] none;

    MotionReader(Motion motion) {
        this.motion = motion.reader(MOST + 1);
        int gains = motion.gains();
        points = new ControlPoints(motion.curves().stream());
        came = new double[gains][MOST + 1];
        went = new double[gains][MOST + 1];
        left = new double[gains][1];
        none = new boolean[gains];
        jumps = Arrays.stream(points.own()).filter(this::jumps).toArray();
        starts = new double[jumps.length][gains];
        for (int j = 0; j < jumps.length; j++) {
            readSingle(jumps[j], true);
            long since = j > 0 ? jumps[j] - jumps[j - 1] : CROSSING;
            double way = Math.min(1, (double) since / CROSSING);
            for (int g = 0; g < gains; g++) {
                starts[j][g] = way == 1 ? left[g][0] : starts[j - 1][g] + way * (left[g][0] - starts[j - 1][g]);
            }
        }
    }

    private void readSingle(long frame, boolean before) {
        single[0] = frame;
        motion.read(single, 1, before, left);
    }

    private boolean jumps(long frame) {
        readSingle(frame, true);
        double[] before = Arrays.stream(left).mapToDouble(gain -> gain[0]).toArray();
        readSingle(frame, false);
        return IntStream.range(0, before.length).anyMatch(g -> before[g] != left[g][0]);
    }

    /** The place in growing frames of the first one that is after a frame. */
    private static int after(long[] growing, long frame) {
        int place = Arrays.binarySearch(growing, frame);
        return place < 0 ? -place - 1 : place + 1;
    }

    /**
     * Reads the gains of consecutive frames.
     *
     * @param songFrame the first one's frame of the song; before 0 everything stands as at 0
     * @param rows filled in, linear: {@code rows[gain][0 .. frames)}, but for gains of which {@link #isNone} is then true
     */
    void fill(long songFrame, double[][] rows, int frames) {
        int done = 0;
        Arrays.fill(none, true);
        if (songFrame < 0) {
            done = (int) Math.min(frames, -songFrame);
            readSingle(0, false);
            for (int g = 0; g < none.length; g++) {
                none[g] = left[g][0] == 0;
                Arrays.fill(rows[g], 0, done, left[g][0]);
            }
        }
        while (done < frames) {
            int count = control(songFrame + done, frames - done);
            int until = (int) Math.min(frames, controls[count] - songFrame);
            for (int g = 0; g < none.length; g++) {
                if (!isNone(g, count)) {
                    begin(g, rows, done);
                    straight(songFrame, g, count, rows[g], done, until);
                } else if (!none[g]) {
                    Arrays.fill(rows[g], done, until, 0);
                }
            }
            cross(songFrame, rows, done, until);
            done = until;
        }
    }

    /** Whether a gain was 0 at all frames that were read last. */
    boolean isNone(int gain) {
        return none[gain];
    }

    /** Fills in the rows of the gains of which {@link #isNone} is true, as those that were read last. */
    void complete(double[][] rows, int frames) {
        for (int g = 0; g < none.length; g++) {
            if (none[g]) {
                Arrays.fill(rows[g], 0, frames, 0);
            }
        }
    }

    /** A gain that was 0 so far is something else from a frame on. */
    private void begin(int gain, double[][] rows, int frame) {
        if (none[gain]) {
            Arrays.fill(rows[gain], 0, frame, 0);
            none[gain] = false;
        }
    }

    private boolean isNone(int gain, int count) {
        for (int k = 0; k < count; k++) {
            if (came[gain][k + 1] != 0 || went[gain][k] != 0) {
                return false;
            }
        }
        return true;
    }

    /**
     * Reads the gains at the control points from the one at or before a frame on.
     *
     * @return how many stretches lie between them
     */
    private int control(long frame, int most) {
        controls[0] = points.last(frame);
        int count = 0;
        while (count < MOST && controls[count] < frame + most) {
            controls[count + 1] = points.next(controls[count]);
            count++;
        }
        motion.read(controls, count + 1, true, came);
        for (int g = 0; g < came.length; g++) {
            System.arraycopy(came[g], 0, went[g], 0, count);
        }
        int k = 0;
        for (int j = after(jumps, controls[0] - 1); j < jumps.length && jumps[j] < controls[count]; j++) {
            k = Arrays.binarySearch(controls, k, count, jumps[j]);
            readSingle(jumps[j], false);
            for (int g = 0; g < went.length; g++) {
                went[g][k] = left[g][0];
            }
        }
        return count;
    }

    /** Fills in {@code row[first .. until)}, which lies within the stretches that were read. */
    private void straight(long songFrame, int gain, int count, double[] row, int first, int until) {
        double[] starts = went[gain];
        double[] ends = came[gain];
        int done = first;
        for (int k = 0; k < count; k++) {
            int length = (int) (controls[k + 1] - controls[k]);
            int offset = (int) (songFrame + done - controls[k]);
            double start = starts[k];
            double step = (ends[k + 1] - start) * (1.0 / length);
            int end = Math.min(until, done + length - offset);
            if (end - done == GRID) {
                whole(row, done, start, step);
            } else {
                for (int i = done; i < end; i++) {
                    row[i] = Math.fma(step, INDEX[offset + i - done], start);
                }
            }
            done = end;
        }
    }

    /** Most stretches are of this one length, which the compiler then knows. */
    private static void whole(double[] row, int first, double start, double step) {
        for (int i = 0; i < GRID; i++) {
            row[first + i] = Math.fma(step, INDEX[i], start);
        }
    }

    /** Has the gains cross over where jumps were not long ago. */
    private void cross(long songFrame, double[][] rows, int first, int until) {
        int last = after(jumps, songFrame + until - 1);
        for (int j = Math.max(0, after(jumps, songFrame + first) - 1); j < last; j++) {
            long end = Math.min(jumps[j] + CROSSING, j + 1 < jumps.length ? jumps[j + 1] : Long.MAX_VALUE);
            int from = (int) Math.max(first, jumps[j] - songFrame);
            int to = (int) Math.min(until, end - songFrame);
            for (int g = 0; g < none.length; g++) {
                double start = starts[j][g];
                if (start != 0 && from < to) {
                    begin(g, rows, until);
                }
                for (int i = from; i < to && !none[g]; i++) {
                    double way = (double) (songFrame + i - jumps[j]) / CROSSING;
                    rows[g][i] = start + way * (rows[g][i] - start);
                }
            }
        }
    }
}
