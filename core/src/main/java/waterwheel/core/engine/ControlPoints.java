package waterwheel.core.engine;

import java.util.stream.Stream;
import waterwheel.core.rides.Curve;

/**
 * The frames of the song at which what moves is read: those that divide by {@value #GRID}, and the curves' own points.
 * Quick where the frames that are asked for follow each other. One thread at a time; allocates nothing after construction.
 */
final class ControlPoints {
    /** Frames between two control points where a curve has none of its own. */
    static final int GRID = 32;

    private final long[] own;
    /** The first of the curves' own after the frame that was asked for last. */
    private int next;

    ControlPoints(Stream<Curve> curves) {
        own = Curve.frames(curves);
    }

    /** The curves' own points, growing; not to be changed. */
    long[] own() {
        return own;
    }

    /** The last one that is not after a frame. */
    long last(long frame) {
        find(frame);
        long grid = frame - frame % GRID;
        return next > 0 ? Math.max(grid, own[next - 1]) : grid;
    }

    /**
     * Finds those around some frames: the last one that is not after the first frame, and all that follow until the end.
     *
     * @param found filled in; no more than there is room for
     * @return how many follow the first
     */
    int around(long frame, long end, long[] found) {
        long at = last(frame);
        long grid = at - at % GRID + GRID;
        int following = next;
        int count = 0;
        found[0] = at;
        while (at < end && count < found.length - 1) {
            long point = following < own.length ? own[following] : Long.MAX_VALUE;
            while (grid < point && at < end && count < found.length - 1) {
                at = grid;
                grid += GRID;
                found[++count] = at;
            }
            if (at < end && count < found.length - 1) {
                at = point;
                following++;
                grid += grid == at ? GRID : 0;
                found[++count] = at;
            }
        }
        return count;
    }

    /** The first one after a frame. */
    long next(long frame) {
        find(frame);
        long grid = frame - frame % GRID + GRID;
        return next < own.length ? Math.min(grid, own[next]) : grid;
    }

    private void find(long frame) {
        while (next < own.length && own[next] <= frame) {
            next++;
        }
        while (next > 0 && own[next - 1] > frame) {
            next--;
        }
    }
}
