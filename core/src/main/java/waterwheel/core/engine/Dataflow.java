package waterwheel.core.engine;

import java.util.concurrent.atomic.AtomicLongArray;
import java.util.concurrent.locks.LockSupport;
import org.jspecify.annotations.Nullable;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/**
 * Tasks that hand the blocks of a stretch to each other. A task may work on a block when the tasks that it hears have
 * done with that block, and when those that hear it no longer need the buffer that it would write to; a signal has as
 * many buffers as there are slots. Whatever thread is free takes the task that is furthest behind, so that the longest
 * chain is never kept waiting, and no thread waits for another as long as there is anything to do (data-driven
 * scheduling: J. B. Dennis, First version of a data flow procedure language, 1974).
 *
 * <p>Every task does its blocks in order, so what it computes does not depend on the threads. Allocates nothing after
 * construction.
 */
final class Dataflow implements Team.Job {
    private static final int NONE = -1;
    private static final int SPINS = 32;
    /** After looking so often in vain, for a tenth of a millisecond or so, a thread sleeps as long between looks. */
    private static final int LOOKS = 64;

    private static final long SLEEP_NANOS = 100_000;

    private final BlockTask[][] tasks;
    private final int[][] hears;
    private final int[][] clearedBy;
    private final Team team;
    private final int blockFrames;
    private final @Nullable TaskClock clock;
    /** Of each task twice the number of blocks that it has done, and one more while it works on the next. */
    private final AtomicLongArray states;

    private long from;
    private long to;
    private long blocks;
    private Progress progress = Progress.NONE;
    private Thread caller = Thread.currentThread();
    private volatile boolean ended;

    /** Makes a dataflow of tasks with buffers of their own that nobody clocks. */
    Dataflow(BlockTask[][] tasks, int[][] hears, Team team, int blockFrames) {
        this(tasks, hears, turned(hears), team, blockFrames, null);
    }

    /**
     * Makes a dataflow.
     *
     * @param tasks {@code tasks[slot][task]}, each task behind those that it hears
     * @param hears {@code hears[task]}: the tasks that must have done a block before it
     * @param clearedBy {@code clearedBy[task]}: the tasks that must have done with a buffer before it writes there again
     * @param blockFrames the length of a block; the last one may be shorter
     * @param clock told of what every task takes; null where nobody wants to know
     */
    Dataflow(
            BlockTask[][] tasks,
            int[][] hears,
            int[][] clearedBy,
            Team team,
            int blockFrames,
            @Nullable TaskClock clock) {
        this.clock = clock;
        this.tasks = tasks;
        this.hears = hears;
        this.team = team;
        this.blockFrames = blockFrames;
        this.clearedBy = clearedBy;
        states = new AtomicLongArray(hears.length);
    }

    /** By task those that hear it, of by task those that it hears. */
    static int[][] turned(int[][] hears) {
        int[] counts = new int[hears.length];
        for (int[] heard : hears) {
            for (int one : heard) {
                counts[one]++;
            }
        }
        int[][] heardBy = new int[hears.length][];
        for (int i = 0; i < counts.length; i++) {
            heardBy[i] = new int[counts[i]];
        }
        for (int task = 0; task < hears.length; task++) {
            for (int one : hears[task]) {
                heardBy[one][--counts[one]] = task;
            }
        }
        return heardBy;
    }

    /**
     * Has every task do all blocks of a stretch.
     *
     * @param from the stretch's first frame
     * @param to the frame after its last one
     * @throws java.util.concurrent.CancellationException if the progress says stop; the tasks are then at different
     *     blocks
     */
    void run(long from, long to, Progress progress) {
        this.from = from;
        this.to = to;
        blocks = Math.ceilDiv(to - from, blockFrames);
        if (team.threads() == 1) {
            inOrder(progress);
            return;
        }
        for (int i = 0; i < hears.length; i++) {
            states.setPlain(i, 0);
        }
        this.progress = progress;
        caller = Thread.currentThread();
        ended = false;
        team.run(team.threads(), this);
    }

    /** What one thread alone does: nothing is ever waited for. */
    private void inOrder(Progress shown) {
        for (long block = 0; block < blocks; block++) {
            shown.check();
            if (clock == null) {
                for (int task = 0; task < hears.length; task++) {
                    work(task, block);
                }
            } else {
                inOrder(block, clock);
            }
            shown.at((double) (block + 1) / blocks);
        }
    }

    private void inOrder(long block, TaskClock shown) {
        shown.begin();
        for (int task = 0; task < hears.length; task++) {
            work(task, block);
            shown.done(task);
        }
    }

    private void work(int task, long block) {
        long first = from + block * blockFrames;
        tasks[(int) (block % tasks.length)][task].run(first, (int) Math.min(blockFrames, to - first));
    }

    @Override
    public void run(int worker) {
        try {
            takePart();
        } finally {
            // The others must not wait for what this one has left undone.
            ended = true;
        }
    }

    private void takePart() {
        int count = hears.length;
        boolean shows = Thread.currentThread() == caller;
        int begin = 0;
        int vain = 0;
        // No task is behind this block.
        long oldest = 0;
        while (!ended) {
            int found = NONE;
            long foundBlock = blocks;
            long least = blocks;
            for (int k = 0; k < count && foundBlock > oldest; k++) {
                int task = begin + k < count ? begin + k : begin + k - count;
                long state = states.get(task);
                long block = state >> 1;
                least = Math.min(least, block);
                if (block < foundBlock && (state & 1) == 0 && ready(task, block)) {
                    found = task;
                    foundBlock = block;
                }
            }
            if (foundBlock > oldest && least > oldest) {
                oldest = least;
                if (shows) {
                    progress.at((double) oldest / blocks);
                }
            }
            if (shows) {
                progress.check();
            }
            if (oldest == blocks) {
                return;
            }
            if (found == NONE) {
                rest(vain++);
            } else if (states.compareAndSet(found, 2 * foundBlock, 2 * foundBlock + 1)) {
                vain = 0;
                work(found, foundBlock);
                states.setRelease(found, 2 * foundBlock + 2);
                begin = found + 1 == count ? 0 : found + 1;
            }
        }
    }

    /** A microsecond or two: looking again sooner would only take from what another thread needs; longer in the end. */
    private static void rest(int vain) {
        if (vain > LOOKS) {
            LockSupport.parkNanos(SLEEP_NANOS);
            return;
        }
        for (int i = 0; i < SPINS; i++) {
            Thread.onSpinWait();
        }
    }

    private boolean ready(int task, long block) {
        for (int one : hears[task]) {
            if (states.get(one) < 2 * (block + 1)) {
                return false;
            }
        }
        for (int one : clearedBy[task]) {
            if (states.get(one) < 2 * (block + 1 - tasks.length)) {
                return false;
            }
        }
        return true;
    }
}
