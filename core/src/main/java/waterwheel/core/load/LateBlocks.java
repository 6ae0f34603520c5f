package waterwheel.core.load;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/** Counts late blocks and keeps the last of them. One thread notes, which allocates nothing; any thread reads. */
public final class LateBlocks {
    private static final int KEPT = 64;

    private final long[] frames = new long[KEPT];
    private final float[] shares = new float[KEPT];
    private final Part[] atWork = new Part[KEPT];
    /** Written last, so that who reads it sees what was noted before. */
    private volatile int count;

    public LateBlocks() {
        Arrays.fill(atWork, Part.METERS);
    }

    void note(long frame, double share, Part part) {
        int noted = count;
        int at = noted % KEPT;
        frames[at] = frame;
        shares[at] = (float) share;
        atWork[at] = part;
        count = noted + 1;
    }

    /** How many there were. */
    int count() {
        return count;
    }

    /** The last of them, the newest first. */
    List<LateBlock> last() {
        int noted = count;
        List<LateBlock> all = new ArrayList<>();
        for (int i = noted - 1; i >= Math.max(0, noted - KEPT); i--) {
            int at = i % KEPT;
            all.add(new LateBlock(frames[at], shares[at], atWork[at]));
        }
        return all;
    }
}
