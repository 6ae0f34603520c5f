package waterwheel.core.engine;

import java.util.Arrays;
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
        int following = next;
        int count = 0;
        found[0] = at;
        while (at < end && count < found.length - 1) {
            at = at - at % GRID + GRID;
            if (following < own.length && own[following] <= at) {
                at = own[following++];
            }
            found[++count] = at;
        }
        return count;
    }

    /** The first one after a frame. */
    long next(long frame) {
        find(frame);
        long grid = frame - frame % GRID + GRID;
        return next < own.length ? Math.min(grid, own[next]) : grid;
    }

    /** The place in growing frames of the first one that is after a frame. */
    static int after(long[] growing, long frame) {
        int place = Arrays.binarySearch(growing, frame);
        return place < 0 ? -place - 1 : place + 1;
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
