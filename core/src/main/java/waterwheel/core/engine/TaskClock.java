package waterwheel.core.engine;

import java.util.Arrays;

/**
 * How long a block's tasks take, by what they work for, on the one thread that does them one after the other. The clock
 * is read only where another one's tasks begin, some hundred times a block at most, 25 ns each.
 */
final class TaskClock {
    private static final int NOBODY = -1;

    /** By task what it works for. */
    private final int[] owners;
    /** By task whether the next one works for another. */
    private final boolean[] last;

    private final long[] spent;
    private long deadline;
    private int late = NOBODY;
    private long before;

    /** @param owners by task what it works for, a number below {@code count} */
    TaskClock(int[] owners, int count) {
        this.owners = owners;
        last = new boolean[owners.length];
        for (int i = 0; i < last.length; i++) {
            last[i] = i + 1 == last.length || owners[i + 1] != owners[i];
        }
        spent = new long[count];
        deadline = System.nanoTime() + Long.MAX_VALUE / 2;
    }

    void begin() {
        before = System.nanoTime();
    }

    void done(int task) {
        if (last[task]) {
            long now = System.nanoTime();
            spent[owners[task]] += now - before;
            before = now;
            if (now - deadline > 0 && late == NOBODY) {
                late = owners[task];
            }
        }
    }

    /** Begins a block that should be done by a time of {@link System#nanoTime}. */
    void due(long nanos) {
        Arrays.fill(spent, 0);
        deadline = nanos;
        late = NOBODY;
    }

    /** What a block's tasks took, in ns, by what they work for; the clock's own array. */
    long[] spent() {
        return spent;
    }

    /** Whose task was at work when the block's time ran out; -1 where it did not. */
    int late() {
        return late;
    }
}
