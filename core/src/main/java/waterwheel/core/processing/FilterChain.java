package waterwheel.core.processing;

import java.util.Arrays;

/**
 * Second-order filters in a row with what they remember, for one or two planes, in double from before the first filter
 * to behind the last. A single plane is one of two of which the other is silent. One thread at a time; allocates nothing
 * after construction.
 *
 * <p>Filters move by having their coefficients go in straight lines from frame to frame: filters on such a line are
 * stable where both ends are, because the stable ones are the inside of a triangle (Oppenheim, Schafer, Discrete-Time
 * Signal Processing). A filter that lets all through and remembers nothing is left out.
 */
final class FilterChain {
    private static final Goals NOWHERE = new Goals() {
        @Override
        public boolean moves(int filter, Moves script) {
            return false;
        }

        @Override
        public void write(int filter, Moves script, int first, int count, MovesAhead ahead) {}
    };

    private static final int SIZE = Biquad.SIZE;
    private static final int MEMORIES = BiquadLoops.MEMORIES;
    /** Below this there is nothing to hear, and numbers that small would slow the processor down. */
    private static final double SILENT = 1e-30;

    private final int count;
    /** By filter the coefficients of the next frame, those that it goes to, and by how much they move at each frame. */
    private final double[] now;

    private final double[] to;
    private final double[] step;
    /** How many frames each filter still moves. */
    private final int[] goes;

    private final double[] memory;
    /** Whether a filter goes, or may go, somewhere in the present block. */
    private final boolean[] moving;

    /** The filters that do something in the present block. */
    private final int[] active;

    /** Makes filters that let all through. */
    FilterChain(int filters) {
        count = filters;
        now = new double[SIZE * filters];
        to = new double[SIZE * filters];
        step = new double[SIZE * filters];
        goes = new int[filters];
        memory = new double[MEMORIES * filters];
        moving = new boolean[filters];
        active = new int[filters];
        for (int f = 0; f < filters; f++) {
            Biquad.flat(now, SIZE * f);
            Biquad.flat(to, SIZE * f);
        }
    }

    /** Where the coefficients that the filters go to are written, {@link Biquad#SIZE} a filter; then call {@link #move}. */
    double[] goal() {
        return to;
    }

    /** Has a filter go to its goal from where it stands. */
    void move(int filter, int frames) {
        goes[filter] = frames;
        if (frames == 0) {
            arrive(filter);
            return;
        }
        int f = SIZE * filter;
        findSteps(now, f, to, f, frames, step, f);
    }

    /** Finds by how much the coefficients of one filter move at each frame from some to others. */
    private static void findSteps(
            double[] from, int start, double[] goals, int goal, int frames, double[] steps, int place) {
        double part = 1.0 / frames;
        for (int i = 0; i < SIZE; i++) {
            steps[place + i] = (goals[goal + i] - from[start + i]) * part;
        }
    }

    private void arrive(int filter) {
        System.arraycopy(to, SIZE * filter, now, SIZE * filter, SIZE);
    }

    private boolean letsAllThrough(int f) {
        int c = SIZE * f;
        int m = MEMORIES * f;
        return now[c] == 1
                && now[c + 1] == now[c + 3]
                && now[c + 2] == now[c + 4]
                && memory[m] == 0
                && memory[m + 1] == 0
                && memory[m + 2] == 0
                && memory[m + 3] == 0;
    }

    /** The gain of all filters at their goal, linear. */
    double magnitude(double hertz, int rate) {
        double magnitude = 1;
        for (int f = 0; f < count; f++) {
            magnitude *= Biquad.magnitude(to, SIZE * f, hertz, rate);
        }
        return magnitude;
    }

    /** Says where filters go while moves are followed. */
    interface Goals {
        /** Whether a filter hangs on what moves. */
        boolean moves(int filter, Moves script);

        /**
         * Finds where a filter goes with some of the moves.
         *
         * @param count how many, at most {@link MovesAhead#MOST}
         * @param ahead whose goals, and whether they are elsewhere, are filled in
         */
        void write(int filter, Moves script, int first, int count, MovesAhead ahead);
    }

    /** Filters one or two planes in place. */
    void process(float[][] signal, int frames) {
        follow(signal, frames, Moves.NONE, NOWHERE);
    }

    /** Filters one or two planes in place, while filters go where they are told to over the block. */
    void follow(float[][] signal, int frames, Moves script, Goals goals) {
        int some = findActive(script, goals);
        if (some == 0) {
            return;
        }
        double[][] rows = Rows.of(frames);
        double[] left = rows[0];
        double[] right = rows[1];
        load(signal[0], left, frames);
        if (signal.length == 2) {
            load(signal[1], right, frames);
        } else {
            Arrays.fill(right, 0, frames, 0);
        }
        for (int a = 0; a < some; a++) {
            int f = active[a];
            if (moving[f]) {
                follow(f, left, right, frames, script, goals);
            } else if (a + 1 < some && !moving[active[a + 1]]) {
                BiquadLoops.two(now, memory, f, active[++a], left, right, frames);
            } else {
                BiquadLoops.one(now, memory, f, left, right, 0, frames);
            }
        }
        store(left, signal[0], frames);
        if (signal.length == 2) {
            store(right, signal[1], frames);
        }
        settle();
    }

    /** Finds the filters that do something in a block, and those of them that move; returns how many. */
    private int findActive(Moves script, Goals goals) {
        int some = 0;
        for (int f = 0; f < count; f++) {
            moving[f] = goes[f] > 0 || goals.moves(f, script);
            if (moving[f] || !letsAllThrough(f)) {
                active[some++] = f;
            }
        }
        return some;
    }

    private static void load(float[] from, double[] to, int frames) {
        for (int i = 0; i < frames; i++) {
            to[i] = from[i];
        }
    }

    private static void store(double[] from, float[] to, int frames) {
        for (int i = 0; i < frames; i++) {
            to[i] = (float) from[i];
        }
    }

    /** Runs a filter while it goes where it is told to. */
    private void follow(int f, double[] left, double[] right, int frames, Moves script, Goals goals) {
        MovesAhead ahead = MovesAhead.ofThread();
        int done = 0;
        for (int first = 0; first < script.count(); first += MovesAhead.MOST) {
            int some = Math.min(MovesAhead.MOST, script.count() - first);
            goals.write(f, script, first, some, ahead);
            int k = 0;
            while (k < some) {
                if (!ahead.elsewhere[k]) {
                    k++;
                    continue;
                }
                run(f, left, right, done, script.at(first + k));
                int stretches = stretches(script, first, k, some, frames, ahead);
                if (stretches > 0) {
                    through(f, left, right, script, first, k, stretches, ahead);
                    done = ahead.bounds[stretches];
                    k += stretches;
                } else {
                    done = script.at(first + k);
                    System.arraycopy(ahead.goals, SIZE * k, to, SIZE * f, SIZE);
                    move(f, script.frames(first + k));
                    k++;
                }
            }
        }
        run(f, left, right, done, frames);
    }

    /** Finds how many of the moves ahead follow each other, each with its goal reached within the block, and their bounds. */
    private static int stretches(Moves script, int first, int k, int some, int frames, MovesAhead ahead) {
        int count = 0;
        int end = script.at(first + k);
        ahead.bounds[0] = end;
        while (k + count < some && ahead.elsewhere[k + count] && script.at(first + k + count) == end) {
            int move = first + k + count;
            end += script.frames(move);
            if (end > (move + 1 < script.count() ? script.at(move + 1) : frames)) {
                break;
            }
            ahead.bounds[++count] = end;
        }
        return count;
    }

    /** Runs a filter through moves that follow each other; it stands at the last one's goal. */
    private void through(
            int f, double[] left, double[] right, Moves script, int first, int k, int stretches, MovesAhead ahead) {
        double[] goals = ahead.goals;
        double[] steps = ahead.steps;
        for (int n = 0; n < stretches; n++) {
            double[] from = n == 0 ? now : goals;
            int start = n == 0 ? SIZE * f : SIZE * (k + n - 1);
            findSteps(from, start, goals, SIZE * (k + n), script.frames(first + k + n), steps, SIZE * n);
        }
        BiquadLoops.moving(now, memory, f, steps, 0, goals, SIZE * k, ahead.bounds, stretches, left, right);
        System.arraycopy(goals, SIZE * (k + stretches - 1), to, SIZE * f, SIZE);
        move(f, 0);
    }

    /** Runs a filter between two moves; it stands where it has arrived. */
    private void run(int f, double[] left, double[] right, int from, int until) {
        int arrives = Math.min(from + goes[f], until);
        if (arrives > from) {
            int[] bounds = MovesAhead.ofThread().bounds;
            bounds[0] = from;
            bounds[1] = arrives;
            BiquadLoops.moving(now, memory, f, step, SIZE * f, to, SIZE * f, bounds, 1, left, right);
            goes[f] -= arrives - from;
            if (goes[f] == 0) {
                arrive(f);
            }
        }
        if (until > arrives) {
            BiquadLoops.one(now, memory, f, left, right, arrives, until);
        }
    }

    private void settle() {
        for (int i = 0; i < memory.length; i++) {
            if (Math.abs(memory[i]) < SILENT) {
                memory[i] = 0;
            }
        }
    }

    /** Forgets all that came before, and is at its goal. */
    void reset() {
        Arrays.fill(memory, 0);
        Arrays.fill(goes, 0);
        System.arraycopy(to, 0, now, 0, now.length);
    }

    /** Goes on from where another chain of as many filters stands. */
    void adopt(FilterChain other) {
        if (memory.length == other.memory.length) {
            System.arraycopy(other.memory, 0, memory, 0, memory.length);
        }
    }
}
