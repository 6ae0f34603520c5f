package waterwheel.core.processing;

import java.util.Arrays;

/**
 * Second-order filters in a row with what they remember, for up to two planes: transposed direct form II in double. One
 * thread at a time; allocates nothing after construction.
 *
 * <p>A filter waits for its own last result at every frame. So two filters and both planes run in one loop: while one
 * waits, another works. A product and its addition are rounded once ({@link Math#fma}), which also shortens the wait.
 *
 * <p>Filters move by having their coefficients go in straight lines from frame to frame: filters on such a line are
 * stable where both ends are, because the stable ones are the inside of a triangle (Oppenheim, Schafer, Discrete-Time
 * Signal Processing). A filter that lets all through and remembers nothing is left out.
 */
final class FilterChain {
    private static final Goals NOWHERE = new Goals() {
        @Override
        public boolean elsewhere(int filter, Moves script, int number) {
            return false;
        }

        @Override
        public void write(int filter, Moves script, int number) {}
    };

    private static final int PER_FILTER = 4;
    private static final int SIZE = Biquad.SIZE;
    /** Below this there is nothing to hear, and numbers that small would slow the processor down. */
    private static final double SILENT = 1e-30;

    private final int count;
    /** By filter the coefficients of the next frame, those that it goes to, and by how much they move at each frame. */
    private final double[] now;

    private final double[] to;
    private final double[] step;
    /** How many frames each filter still moves. */
    private final int[] left;

    /** For each filter the two memories of the left plane, then those of the right. */
    private final double[] memory;
    /** Whether a filter was found active as one that moves, and need not be found again. */
    private final boolean[] moves;

    /** Filters that run by themselves, because they move over the song: so the samples do not hang on when they do. */
    private final boolean[] apart;

    /** Whether a filter moves in the present block. */
    private final boolean[] moving;

    /** The filters that do something. */
    private final int[] active;

    private int activeCount;

    /** Makes filters that let all through. */
    FilterChain(int filters) {
        count = filters;
        now = new double[SIZE * filters];
        to = new double[SIZE * filters];
        step = new double[SIZE * filters];
        left = new int[filters];
        memory = new double[PER_FILTER * filters];
        active = new int[filters];
        moves = new boolean[filters];
        apart = new boolean[filters];
        moving = new boolean[filters];
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
        begin(filter, frames);
        if (!moves[filter]) {
            findActive();
            moves[filter] = left[filter] > 0;
        }
    }

    private void begin(int filter, int frames) {
        int c = SIZE * filter;
        if (frames == 0) {
            System.arraycopy(to, c, now, c, SIZE);
        }
        left[filter] = frames;
        double part = 1.0 / Math.max(1, frames);
        for (int i = c; frames > 0 && i < c + SIZE; i++) {
            step[i] = (to[i] - now[i]) * part;
        }
    }

    private void findActive() {
        activeCount = 0;
        for (int f = 0; f < count; f++) {
            if (left[f] > 0 || moves[f] || apart[f] || !letsAllThrough(f)) {
                active[activeCount++] = f;
            }
        }
    }

    private boolean letsAllThrough(int f) {
        int c = SIZE * f;
        int m = PER_FILTER * f;
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
        /** Whether a filter goes elsewhere with one of the moves than before it. */
        boolean elsewhere(int filter, Moves script, int number);

        /** Writes the goal that a filter has with one of the moves. */
        void write(int filter, Moves script, int number);
    }

    /** Has a filter run by itself from now on, or no longer. */
    void keepApart(int filter, boolean value) {
        apart[filter] = value;
        findActive();
    }

    /** Filters one or two planes in place. */
    void process(float[][] signal, int frames) {
        follow(signal, frames, Moves.NONE, NOWHERE);
    }

    /** Filters one or two planes in place, while filters go where they are told to over the block. */
    void follow(float[][] signal, int frames, Moves script, Goals goals) {
        findMoving(script, goals);
        boolean moved = false;
        int a = 0;
        while (a < activeCount) {
            int f = active[a];
            if (moving[f]) {
                follow(f, signal, frames, script, goals);
                moved = true;
                a++;
            } else {
                a += still(a, signal, frames);
            }
        }
        settle();
        if (moved) {
            arrive();
        }
    }

    /** Finds which filters move in a block; one that begins to takes part from its first frame on. */
    private void findMoving(Moves script, Goals goals) {
        boolean more = false;
        for (int f = 0; f < count; f++) {
            moving[f] = apart[f] || left[f] > 0 || (script.count() > 0 && goals.elsewhere(f, script, 0));
            if (moving[f] && !apart[f] && !moves[f]) {
                moves[f] = true;
                more = true;
            }
        }
        if (more) {
            findActive();
        }
    }

    private void follow(int f, float[][] signal, int frames, Moves script, Goals goals) {
        int done = 0;
        for (int k = 0; k < script.count(); k++) {
            moving(f, signal, done, script.at(k));
            done = script.at(k);
            if (goals.elsewhere(f, script, k)) {
                goals.write(f, script, k);
                begin(f, script.frames(k));
            }
        }
        moving(f, signal, done, frames);
    }

    /** Runs a filter that stands, and with it the next one where that stands too; returns how many. */
    private int still(int a, float[][] signal, int frames) {
        int f = active[a];
        boolean both = a + 1 < activeCount && !moving[active[a + 1]];
        if (both && signal.length == 2) {
            two(f, active[a + 1], signal[0], signal[1], frames);
        } else if (both) {
            two(f, active[a + 1], signal[0], frames);
        } else {
            one(f, signal, 0, frames);
        }
        return both ? 2 : 1;
    }

    /** One that has come to where it lets all through is left out, once it has nothing left to say. */
    private void arrive() {
        boolean out = false;
        for (int f = 0; f < count; f++) {
            if (moves[f] && left[f] == 0 && letsAllThrough(f)) {
                moves[f] = false;
                out = true;
            }
        }
        if (out) {
            findActive();
        }
    }

    /** Runs a filter that moves over {@code signal[plane][from .. until)}; it stands where it has arrived. */
    private void moving(int f, float[][] signal, int from, int until) {
        int arrives = Math.min(from + left[f], until);
        if (arrives > from && signal.length == 2) {
            moving(f, signal[0], signal[1], from, arrives);
        } else if (arrives > from) {
            moving(f, signal[0], from, arrives);
        }
        left[f] -= arrives - from;
        if (left[f] == 0) {
            System.arraycopy(to, SIZE * f, now, SIZE * f, SIZE);
        }
        one(f, signal, arrives, until);
    }

    private void moving(int f, float[] left, float[] right, int from, int until) {
        final int c = SIZE * f;
        final double db0 = step[c];
        final double db1 = step[c + 1];
        final double db2 = step[c + 2];
        final double da1 = step[c + 3];
        final double da2 = step[c + 4];
        double b0 = now[c];
        double b1 = now[c + 1];
        double b2 = now[c + 2];
        double a1 = now[c + 3];
        double a2 = now[c + 4];
        final int m = PER_FILTER * f;
        double l1 = memory[m];
        double l2 = memory[m + 1];
        double r1 = memory[m + 2];
        double r2 = memory[m + 3];
        for (int i = from; i < until; i++) {
            double l = left[i];
            double r = right[i];
            double yl = Math.fma(b0, l, l1);
            double yr = Math.fma(b0, r, r1);
            l1 = Math.fma(-a1, yl, Math.fma(b1, l, l2));
            r1 = Math.fma(-a1, yr, Math.fma(b1, r, r2));
            l2 = Math.fma(-a2, yl, b2 * l);
            r2 = Math.fma(-a2, yr, b2 * r);
            left[i] = (float) yl;
            right[i] = (float) yr;
            b0 += db0;
            b1 += db1;
            b2 += db2;
            a1 += da1;
            a2 += da2;
        }
        now[c] = b0;
        now[c + 1] = b1;
        now[c + 2] = b2;
        now[c + 3] = a1;
        now[c + 4] = a2;
        memory[m] = l1;
        memory[m + 1] = l2;
        memory[m + 2] = r1;
        memory[m + 3] = r2;
    }

    private void moving(int f, float[] signal, int from, int until) {
        final int c = SIZE * f;
        final double db0 = step[c];
        final double db1 = step[c + 1];
        final double db2 = step[c + 2];
        final double da1 = step[c + 3];
        final double da2 = step[c + 4];
        double b0 = now[c];
        double b1 = now[c + 1];
        double b2 = now[c + 2];
        double a1 = now[c + 3];
        double a2 = now[c + 4];
        final int m = PER_FILTER * f;
        double s1 = memory[m];
        double s2 = memory[m + 1];
        for (int i = from; i < until; i++) {
            double x = signal[i];
            double y = Math.fma(b0, x, s1);
            s1 = Math.fma(-a1, y, Math.fma(b1, x, s2));
            s2 = Math.fma(-a2, y, b2 * x);
            signal[i] = (float) y;
            b0 += db0;
            b1 += db1;
            b2 += db2;
            a1 += da1;
            a2 += da2;
        }
        now[c] = b0;
        now[c + 1] = b1;
        now[c + 2] = b2;
        now[c + 3] = a1;
        now[c + 4] = a2;
        memory[m] = s1;
        memory[m + 1] = s2;
    }

    private void two(int f, int g, float[] left, float[] right, int frames) {
        final int first = SIZE * f;
        final int second = SIZE * g;
        final double b0 = now[first];
        final double b1 = now[first + 1];
        final double b2 = now[first + 2];
        final double a1 = -now[first + 3];
        final double a2 = -now[first + 4];
        final double d0 = now[second];
        final double d1 = now[second + 1];
        final double d2 = now[second + 2];
        final double c1 = -now[second + 3];
        final double c2 = -now[second + 4];
        final int m = PER_FILTER * f;
        final int n = PER_FILTER * g;
        double l1 = memory[m];
        double l2 = memory[m + 1];
        double r1 = memory[m + 2];
        double r2 = memory[m + 3];
        double l3 = memory[n];
        double l4 = memory[n + 1];
        double r3 = memory[n + 2];
        double r4 = memory[n + 3];
        for (int i = 0; i < frames; i++) {
            double l = left[i];
            double r = right[i];
            double yl = Math.fma(b0, l, l1);
            double yr = Math.fma(b0, r, r1);
            l1 = Math.fma(a1, yl, Math.fma(b1, l, l2));
            r1 = Math.fma(a1, yr, Math.fma(b1, r, r2));
            l2 = Math.fma(a2, yl, b2 * l);
            r2 = Math.fma(a2, yr, b2 * r);
            double zl = Math.fma(d0, yl, l3);
            double zr = Math.fma(d0, yr, r3);
            l3 = Math.fma(c1, zl, Math.fma(d1, yl, l4));
            r3 = Math.fma(c1, zr, Math.fma(d1, yr, r4));
            l4 = Math.fma(c2, zl, d2 * yl);
            r4 = Math.fma(c2, zr, d2 * yr);
            left[i] = (float) zl;
            right[i] = (float) zr;
        }
        memory[m] = l1;
        memory[m + 1] = l2;
        memory[m + 2] = r1;
        memory[m + 3] = r2;
        memory[n] = l3;
        memory[n + 1] = l4;
        memory[n + 2] = r3;
        memory[n + 3] = r4;
    }

    private void two(int f, int g, float[] signal, int frames) {
        final int first = SIZE * f;
        final int second = SIZE * g;
        final double b0 = now[first];
        final double b1 = now[first + 1];
        final double b2 = now[first + 2];
        final double a1 = -now[first + 3];
        final double a2 = -now[first + 4];
        final double d0 = now[second];
        final double d1 = now[second + 1];
        final double d2 = now[second + 2];
        final double c1 = -now[second + 3];
        final double c2 = -now[second + 4];
        final int m = PER_FILTER * f;
        final int n = PER_FILTER * g;
        double s1 = memory[m];
        double s2 = memory[m + 1];
        double s3 = memory[n];
        double s4 = memory[n + 1];
        for (int i = 0; i < frames; i++) {
            double x = signal[i];
            double y = Math.fma(b0, x, s1);
            s1 = Math.fma(a1, y, Math.fma(b1, x, s2));
            s2 = Math.fma(a2, y, b2 * x);
            double z = Math.fma(d0, y, s3);
            s3 = Math.fma(c1, z, Math.fma(d1, y, s4));
            s4 = Math.fma(c2, z, d2 * y);
            signal[i] = (float) z;
        }
        memory[m] = s1;
        memory[m + 1] = s2;
        memory[n] = s3;
        memory[n + 1] = s4;
    }

    private void one(int f, float[][] signal, int from, int until) {
        if (from < until && signal.length == 2) {
            one(f, signal[0], signal[1], from, until);
        } else if (from < until) {
            one(f, signal[0], from, until);
        }
    }

    /** Both planes in one loop. */
    private void one(int f, float[] left, float[] right, int from, int frames) {
        final int c = SIZE * f;
        final double b0 = now[c];
        final double b1 = now[c + 1];
        final double b2 = now[c + 2];
        final double a1 = -now[c + 3];
        final double a2 = -now[c + 4];
        final int m = PER_FILTER * f;
        double l1 = memory[m];
        double l2 = memory[m + 1];
        double r1 = memory[m + 2];
        double r2 = memory[m + 3];
        for (int i = from; i < frames; i++) {
            double l = left[i];
            double r = right[i];
            double yl = Math.fma(b0, l, l1);
            double yr = Math.fma(b0, r, r1);
            l1 = Math.fma(a1, yl, Math.fma(b1, l, l2));
            r1 = Math.fma(a1, yr, Math.fma(b1, r, r2));
            l2 = Math.fma(a2, yl, b2 * l);
            r2 = Math.fma(a2, yr, b2 * r);
            left[i] = (float) yl;
            right[i] = (float) yr;
        }
        memory[m] = l1;
        memory[m + 1] = l2;
        memory[m + 2] = r1;
        memory[m + 3] = r2;
    }

    private void one(int f, float[] signal, int from, int frames) {
        final int c = SIZE * f;
        final double b0 = now[c];
        final double b1 = now[c + 1];
        final double b2 = now[c + 2];
        final double a1 = -now[c + 3];
        final double a2 = -now[c + 4];
        final int m = PER_FILTER * f;
        double s1 = memory[m];
        double s2 = memory[m + 1];
        for (int i = from; i < frames; i++) {
            double x = signal[i];
            double y = Math.fma(b0, x, s1);
            s1 = Math.fma(a1, y, Math.fma(b1, x, s2));
            s2 = Math.fma(a2, y, b2 * x);
            signal[i] = (float) y;
        }
        memory[m] = s1;
        memory[m + 1] = s2;
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
        Arrays.fill(left, 0);
        Arrays.fill(moves, false);
        System.arraycopy(to, 0, now, 0, now.length);
        findActive();
    }

    /** Goes on from where another chain of as many filters stands. */
    void adopt(FilterChain other) {
        if (memory.length == other.memory.length) {
            System.arraycopy(other.memory, 0, memory, 0, memory.length);
            findActive();
        }
    }
}
