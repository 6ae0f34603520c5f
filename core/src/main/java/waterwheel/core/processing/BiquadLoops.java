package waterwheel.core.processing;

/**
 * The loops of second-order filters over two planes: transposed direct form II in double, in place. A filter waits for
 * its own last result at every frame, so two that stand run in one loop: while one waits, the other works. To the bit
 * that is the same as one after the other. One that moves has enough to do by itself; one that stands has a loop without
 * steps, which would cost it a twentieth. What passes straight from the input to the output is taken out of what a filter
 * that stands feeds back: with {@code c1 = b1 - a1 b0} and {@code c2 = b2 - a2 b0} its memories hang on each other and on
 * the input alone, and wait for one product less. A product and its addition are rounded once ({@link Math#fma}), which
 * also shortens the wait.
 *
 * <p>The arrays are a {@link FilterChain}'s: of each filter {@link Biquad#SIZE} coefficients, as many steps, by which they
 * move at each frame, and {@link #MEMORIES} memories, two of the left plane and two of the right.
 */
final class BiquadLoops {
    static final int MEMORIES = 4;

    private static final int SIZE = Biquad.SIZE;

    private BiquadLoops() {}

    static void one(double[] now, double[] memory, int f, double[] left, double[] right, int from, int until) {
        final int c = SIZE * f;
        final double b0 = now[c];
        final double a1 = -now[c + 3];
        final double a2 = -now[c + 4];
        final double c1 = Math.fma(a1, b0, now[c + 1]);
        final double c2 = Math.fma(a2, b0, now[c + 2]);
        final int m = MEMORIES * f;
        double l1 = memory[m];
        double l2 = memory[m + 1];
        double r1 = memory[m + 2];
        double r2 = memory[m + 3];
        for (int i = from; i < until; i++) {
            double l = left[i];
            double r = right[i];
            double yl = Math.fma(b0, l, l1);
            double yr = Math.fma(b0, r, r1);
            double nl = Math.fma(a1, l1, Math.fma(c1, l, l2));
            double nr = Math.fma(a1, r1, Math.fma(c1, r, r2));
            l2 = Math.fma(a2, l1, c2 * l);
            r2 = Math.fma(a2, r1, c2 * r);
            l1 = nl;
            r1 = nr;
            left[i] = yl;
            right[i] = yr;
        }
        memory[m] = l1;
        memory[m + 1] = l2;
        memory[m + 2] = r1;
        memory[m + 3] = r2;
    }

    static void two(double[] now, double[] memory, int f, int g, double[] left, double[] right, int frames) {
        final int c = SIZE * f;
        final double b0 = now[c];
        final double a1 = -now[c + 3];
        final double a2 = -now[c + 4];
        final double c1 = Math.fma(a1, b0, now[c + 1]);
        final double c2 = Math.fma(a2, b0, now[c + 2]);
        final int d = SIZE * g;
        final double d0 = now[d];
        final double e1 = -now[d + 3];
        final double e2 = -now[d + 4];
        final double g1 = Math.fma(e1, d0, now[d + 1]);
        final double g2 = Math.fma(e2, d0, now[d + 2]);
        final int m = MEMORIES * f;
        double l1 = memory[m];
        double l2 = memory[m + 1];
        double r1 = memory[m + 2];
        double r2 = memory[m + 3];
        final int n = MEMORIES * g;
        double l3 = memory[n];
        double l4 = memory[n + 1];
        double r3 = memory[n + 2];
        double r4 = memory[n + 3];
        for (int i = 0; i < frames; i++) {
            double l = left[i];
            double r = right[i];
            double yl = Math.fma(b0, l, l1);
            double yr = Math.fma(b0, r, r1);
            double nl = Math.fma(a1, l1, Math.fma(c1, l, l2));
            double nr = Math.fma(a1, r1, Math.fma(c1, r, r2));
            l2 = Math.fma(a2, l1, c2 * l);
            r2 = Math.fma(a2, r1, c2 * r);
            l1 = nl;
            r1 = nr;
            double zl = Math.fma(d0, yl, l3);
            double zr = Math.fma(d0, yr, r3);
            double ml = Math.fma(e1, l3, Math.fma(g1, yl, l4));
            double mr = Math.fma(e1, r3, Math.fma(g1, yr, r4));
            l4 = Math.fma(e2, l3, g2 * yl);
            r4 = Math.fma(e2, r3, g2 * yr);
            l3 = ml;
            r3 = mr;
            left[i] = zl;
            right[i] = zr;
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

    /**
     * A filter that moves over some stretches that follow each other.
     *
     * @param steps by how much its coefficients move at each frame: {@link Biquad#SIZE} a stretch, from a place on
     * @param goals what they are where a stretch but the last has ended, likewise
     * @param bounds where the stretches begin, and where the last one ends
     */
    static void moving(
            double[] now,
            double[] memory,
            int f,
            double[] steps,
            int firstStep,
            double[] goals,
            int firstGoal,
            int[] bounds,
            int stretches,
            double[] left,
            double[] right) {
        final int c = SIZE * f;
        double b0 = now[c];
        double b1 = now[c + 1];
        double b2 = now[c + 2];
        double a1 = -now[c + 3];
        double a2 = -now[c + 4];
        final int m = MEMORIES * f;
        double l1 = memory[m];
        double l2 = memory[m + 1];
        double r1 = memory[m + 2];
        double r2 = memory[m + 3];
        for (int n = 0; n < stretches; n++) {
            if (n > 0) {
                final int g = firstGoal + SIZE * (n - 1);
                b0 = goals[g];
                b1 = goals[g + 1];
                b2 = goals[g + 2];
                a1 = -goals[g + 3];
                a2 = -goals[g + 4];
            }
            final int s = firstStep + SIZE * n;
            final double sb0 = steps[s];
            final double sb1 = steps[s + 1];
            final double sb2 = steps[s + 2];
            final double sa1 = steps[s + 3];
            final double sa2 = steps[s + 4];
            final int until = bounds[n + 1];
            for (int i = bounds[n]; i < until; i++) {
                double l = left[i];
                double r = right[i];
                double yl = Math.fma(b0, l, l1);
                double yr = Math.fma(b0, r, r1);
                l1 = Math.fma(a1, yl, Math.fma(b1, l, l2));
                r1 = Math.fma(a1, yr, Math.fma(b1, r, r2));
                l2 = Math.fma(a2, yl, b2 * l);
                r2 = Math.fma(a2, yr, b2 * r);
                left[i] = yl;
                right[i] = yr;
                b0 += sb0;
                b1 += sb1;
                b2 += sb2;
                a1 -= sa1;
                a2 -= sa2;
            }
        }
        now[c] = b0;
        now[c + 1] = b1;
        now[c + 2] = b2;
        now[c + 3] = -a1;
        now[c + 4] = -a2;
        memory[m] = l1;
        memory[m + 1] = l2;
        memory[m + 2] = r1;
        memory[m + 3] = r2;
    }
}
