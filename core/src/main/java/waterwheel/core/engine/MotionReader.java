package waterwheel.core.engine;

import java.util.Arrays;
import java.util.stream.IntStream;
import waterwheel.core.path.Motion;

/**
 * Reads the gains of a motion frame by frame. At control points, which are the song's frames that divide by 32 and the
 * curves' own points, a gain is what the motion says; in between it runs straight. (Against a true line in dB it stays
 * within 0.01 dB up to 48 dB in 50 ms.) Where a curve jumps, the gain crosses over within 240 frames from there. What is
 * read hangs on the frame alone, not on how the song is divided. Control points are found in double; from one to the next
 * it goes in float, as exactly as the samples that are multiplied. One thread at a time; allocates nothing after
 * construction.
 */
final class MotionReader {
    private static final int GRID = ControlPoints.GRID;
    /** Frames that a jump takes. */
    static final int CROSSING = 240;

    /** So many stretches between control points are read at a time. */
    private static final int MOST = 128;

    private static final float[] INDEX = new float[GRID];

    static {
        for (int i = 0; i < GRID; i++) {
            INDEX[i] = i;
        }
    }

    private final Motion.Reader motion;
    private final ControlPoints points;
    /** Those at which the gains jump, and what they are as the jump begins: of a jump before, perhaps not all. */
    private final long[] jumps;

    private final double[][] starts;
    /** What a gain was at all frames that were read last; NaN if it moved. */
    private final float[] steady;

    MotionReader(Motion motion) {
        this.motion = motion.reader();
        int gains = motion.gains();
        points = new ControlPoints(motion.curves().stream());
        steady = new float[gains];
        jumps = motion.mayJump()
                ? Arrays.stream(points.own()).filter(this::jumps).toArray()
                : new long[0];
        starts = new double[jumps.length][gains];
        double[][] left = Room.OF_THREAD.get().left;
        for (int j = 0; j < jumps.length; j++) {
            readSingle(jumps[j], true);
            long since = j > 0 ? jumps[j] - jumps[j - 1] : CROSSING;
            double way = Math.min(1, (double) since / CROSSING);
            for (int g = 0; g < gains; g++) {
                starts[j][g] = way == 1 ? left[g][0] : starts[j - 1][g] + way * (left[g][0] - starts[j - 1][g]);
            }
        }
    }

    /** Where control points are read: each thread's own, so that it stays near the processor. */
    private static final class Room {
        private static final int ROWS = 4 + Motion.Reader.ROOM;
        static final ThreadLocal<Room> OF_THREAD = ThreadLocal.withInitial(Room::new);

        /** Control points, and what the gains come to at each and go on from. */
        final long[] controls = new long[MOST + 1];

        final double[][] came = new double[ROWS][MOST + 1];
        final double[][] went = new double[ROWS][MOST + 1];
        /** A single control point, and what the gains go on from there. */
        final long[] single = new long[1];

        final double[][] left = new double[ROWS][1];
    }

    private void readSingle(long frame, boolean before) {
        Room room = Room.OF_THREAD.get();
        room.single[0] = frame;
        motion.read(room.single, 1, before, room.left);
    }

    private boolean jumps(long frame) {
        double[][] left = Room.OF_THREAD.get().left;
        readSingle(frame, true);
        double[] before = Arrays.stream(left).mapToDouble(gain -> gain[0]).toArray();
        readSingle(frame, false);
        return IntStream.range(0, steady.length).anyMatch(g -> before[g] != left[g][0]);
    }

    /**
     * Reads the gains of consecutive frames.
     *
     * @param songFrame the first one's frame of the song; before 0 everything stands as at 0
     * @param rows filled in, linear: {@code rows[gain][0 .. frames)}, but for gains that {@link #isSteady}
     */
    void fill(long songFrame, float[][] rows, int frames) {
        Room room = Room.OF_THREAD.get();
        int done = 0;
        if (songFrame < 0) {
            done = (int) Math.min(frames, -songFrame);
            readSingle(0, false);
            for (int g = 0; g < steady.length; g++) {
                steady[g] = (float) room.left[g][0];
            }
        }
        while (done < frames) {
            int count = control(room, songFrame + done, frames - done);
            int until = (int) Math.min(frames, room.controls[count] - songFrame);
            for (int g = 0; g < steady.length; g++) {
                float gain = steady(room, g, count);
                if (done == 0) {
                    steady[g] = gain;
                } else if (steady[g] != gain) {
                    complete(g, rows, done);
                }
                if (!isSteady(g)) {
                    straight(room, songFrame, g, count, rows[g], done, until);
                }
            }
            cross(songFrame, rows, done, until);
            done = until;
        }
    }

    /** Whether a gain was the same at all frames that were read last, and its row may hold anything. */
    boolean isSteady(int gain) {
        return !Float.isNaN(steady[gain]);
    }

    /** What a gain that {@link #isSteady} is, linear. */
    float steady(int gain) {
        return steady[gain];
    }

    /** Fills in a steady gain's row up to a frame, as if it moved. */
    void complete(int gain, float[][] rows, int frames) {
        if (isSteady(gain)) {
            Arrays.fill(rows[gain], 0, frames, steady[gain]);
            steady[gain] = Float.NaN;
        }
    }

    /** What a gain is over the stretches that were read; NaN if it moves. */
    private static float steady(Room room, int gain, int count) {
        double[] came = room.came[gain];
        double[] went = room.went[gain];
        double first = went[0];
        for (int k = 0; k < count; k++) {
            if (came[k + 1] != first || went[k] != first) {
                return Float.NaN;
            }
        }
        return (float) first;
    }

    /**
     * Reads the gains at the control points from the one at or before a frame on.
     *
     * @return how many stretches lie between them
     */
    private int control(Room room, long frame, int most) {
        long[] controls = room.controls;
        int count = points.around(frame, frame + most, controls);
        motion.read(controls, count + 1, true, room.came);
        for (int g = 0; g < steady.length; g++) {
            System.arraycopy(room.came[g], 0, room.went[g], 0, count);
        }
        int k = 0;
        for (int j = ControlPoints.after(jumps, controls[0] - 1); j < jumps.length && jumps[j] < controls[count]; j++) {
            k = Arrays.binarySearch(controls, k, count, jumps[j]);
            readSingle(jumps[j], false);
            for (int g = 0; g < steady.length; g++) {
                room.went[g][k] = room.left[g][0];
            }
        }
        return count;
    }

    /** Fills in {@code row[first .. until)}, which lies within the stretches that were read. */
    private static void straight(Room room, long songFrame, int gain, int count, float[] row, int first, int until) {
        long[] controls = room.controls;
        double[] starts = room.went[gain];
        double[] ends = room.came[gain];
        int begin = (int) (controls[0] - songFrame);
        for (int k = 0; k < count; k++) {
            int end = (int) (controls[k + 1] - songFrame);
            float start = (float) starts[k];
            if (end - begin == GRID && begin >= first && end <= until) {
                whole(row, begin, start, (float) ((ends[k + 1] - starts[k]) * (1.0 / GRID)));
            } else {
                float step = (float) ((ends[k + 1] - starts[k]) * (1.0 / (end - begin)));
                for (int i = Math.max(begin, first); i < Math.min(end, until); i++) {
                    row[i] = Math.fma(step, INDEX[i - begin], start);
                }
            }
            begin = end;
        }
    }

    /** Most stretches are of this one length, which the compiler then knows. */
    private static void whole(float[] row, int first, float start, float step) {
        for (int i = 0; i < GRID; i++) {
            row[first + i] = Math.fma(step, INDEX[i], start);
        }
    }

    /** Has the gains cross over where jumps were not long ago. */
    private void cross(long songFrame, float[][] rows, int first, int until) {
        int last = ControlPoints.after(jumps, songFrame + until - 1);
        for (int j = Math.max(0, ControlPoints.after(jumps, songFrame + first) - 1); j < last; j++) {
            long end = Math.min(jumps[j] + CROSSING, j + 1 < jumps.length ? jumps[j + 1] : Long.MAX_VALUE);
            int from = (int) Math.max(first, jumps[j] - songFrame);
            int to = (int) Math.min(until, end - songFrame);
            for (int g = 0; g < steady.length; g++) {
                double start = starts[j][g];
                if (from < to && steady[g] != (float) start) {
                    complete(g, rows, until);
                    for (int i = from; i < to; i++) {
                        double way = (double) (songFrame + i - jumps[j]) / CROSSING;
                        rows[g][i] = (float) (start + way * (rows[g][i] - start));
                    }
                }
            }
        }
    }
}
