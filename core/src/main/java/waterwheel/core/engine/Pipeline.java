package waterwheel.core.engine;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;

/**
 * A stretch of the song on its way through the ranks of a run: at every step each rank works on the block that the rank
 * before it has just left. A step's tasks do not depend on each other, and the longest are handed out first (R. L. Graham,
 * Bounds on multiprocessing timing anomalies, 1969), as long as they took at earlier steps.
 */
final class Pipeline implements Team.Job {
    private static final Comparator<Part> LONGEST_FIRST = (a, b) -> Long.compare(b.nanos, a.nanos);
    /** Tasks are timed and their order is looked at again up to this step: after 1, 2, 4, 8 and so on. */
    private static final int TIMED_STEPS = 128;

    private final BlockTask[][][] tasks;
    private final Part[] parts;
    private final long from;
    private final long to;
    private final int blockFrames;
    private final long blocks;
    private final long steps;
    private long step;

    /**
     * Makes a pipeline at its first step.
     *
     * @param tasks {@code tasks[slot][rank]}: blocks that are in work at the same time use different slots
     * @param from the stretch's first frame
     * @param to the frame after its last one
     */
    Pipeline(BlockTask[][][] tasks, long from, long to, int blockFrames) {
        this.tasks = tasks;
        this.from = from;
        this.to = to;
        this.blockFrames = blockFrames;
        int ranks = tasks[0].length;
        if (ranks > tasks.length) {
            throw new IllegalArgumentException("tasks: " + tasks.length + " slots (expected: " + ranks + ")");
        }
        blocks = Math.ceilDiv(to - from, blockFrames);
        steps = blocks == 0 ? 0 : blocks + ranks - 1;
        List<Part> all = new ArrayList<>();
        for (int r = 0; r < ranks; r++) {
            for (int i = 0; i < tasks[0][r].length; i++) {
                all.add(new Part(r, i));
            }
        }
        parts = all.toArray(Part[]::new);
    }

    /** A task of every step. */
    private static final class Part {
        private final int rank;
        private final int place;
        private long nanos;

        Part(int rank, int place) {
            this.rank = rank;
            this.place = place;
        }
    }

    /** How many tasks a step has. */
    int size() {
        return parts.length;
    }

    boolean more() {
        return step < steps;
    }

    void advance() {
        step++;
        if (step <= TIMED_STEPS && Long.bitCount(step) == 1) {
            Arrays.sort(parts, LONGEST_FIRST);
        }
    }

    /** How much of the stretch is done, 0 to 1. */
    double done() {
        return (double) step / steps;
    }

    @Override
    public void run(int task) {
        Part part = parts[task];
        long block = step - part.rank;
        if (block >= 0 && block < blocks) {
            long first = from + block * blockFrames;
            int frames = (int) Math.min(blockFrames, to - first);
            BlockTask work = tasks[(int) (block % tasks.length)][part.rank][part.place];
            if (step > TIMED_STEPS) {
                work.run(first, frames);
            } else {
                long began = System.nanoTime();
                work.run(first, frames);
                part.nanos += System.nanoTime() - began;
            }
        }
    }
}
