package waterwheel.core.processing;

import java.util.Arrays;
import java.util.List;

/**
 * Second-order filters in a row with what they remember, for up to two planes: transposed direct form II in double. One
 * thread at a time; allocates nothing after construction.
 *
 * <p>A filter waits for its own last result at every frame. So two filters and both planes run in one loop: while one
 * waits, another works. A product and its addition are rounded once ({@link Math#fma}), which also shortens the wait.
 */
final class FilterChain {
    private static final int PER_FILTER = 4;
    /** Below this there is nothing to hear, and numbers that small would slow the processor down. */
    private static final double SILENT = 1e-30;

    private final Biquad[] filters;
    /** For each filter the two memories of the left plane, then those of the right. */
    private final double[] memory;

    FilterChain(List<Biquad> filters) {
        this.filters = filters.toArray(Biquad[]::new);
        memory = new double[PER_FILTER * this.filters.length];
    }

    /** Filters one or two planes in place. */
    void process(float[][] signal, int frames) {
        int f = 0;
        for (; f + 1 < filters.length; f += 2) {
            if (signal.length == 2) {
                two(f, signal[0], signal[1], frames);
            } else {
                two(f, signal[0], frames);
            }
        }
        if (f < filters.length) {
            for (int p = 0; p < signal.length; p++) {
                one(f, p, signal[p], frames);
            }
        }
        settle();
    }

    private void two(int f, float[] left, float[] right, int frames) {
        final Biquad first = filters[f];
        final Biquad second = filters[f + 1];
        final double b0 = first.b0();
        final double b1 = first.b1();
        final double b2 = first.b2();
        final double a1 = -first.a1();
        final double a2 = -first.a2();
        final double d0 = second.b0();
        final double d1 = second.b1();
        final double d2 = second.b2();
        final double c1 = -second.a1();
        final double c2 = -second.a2();
        final int m = PER_FILTER * f;
        double l1 = memory[m];
        double l2 = memory[m + 1];
        double r1 = memory[m + 2];
        double r2 = memory[m + 3];
        double l3 = memory[m + 4];
        double l4 = memory[m + 5];
        double r3 = memory[m + 6];
        double r4 = memory[m + 7];
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
        memory[m + 4] = l3;
        memory[m + 5] = l4;
        memory[m + 6] = r3;
        memory[m + 7] = r4;
    }

    private void two(int f, float[] signal, int frames) {
        final Biquad first = filters[f];
        final Biquad second = filters[f + 1];
        final double b0 = first.b0();
        final double b1 = first.b1();
        final double b2 = first.b2();
        final double a1 = -first.a1();
        final double a2 = -first.a2();
        final double d0 = second.b0();
        final double d1 = second.b1();
        final double d2 = second.b2();
        final double c1 = -second.a1();
        final double c2 = -second.a2();
        final int m = PER_FILTER * f;
        double s1 = memory[m];
        double s2 = memory[m + 1];
        double s3 = memory[m + 4];
        double s4 = memory[m + 5];
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
        memory[m + 4] = s3;
        memory[m + 5] = s4;
    }

    private void one(int f, int plane, float[] signal, int frames) {
        final Biquad filter = filters[f];
        final double b0 = filter.b0();
        final double b1 = filter.b1();
        final double b2 = filter.b2();
        final double a1 = -filter.a1();
        final double a2 = -filter.a2();
        final int m = PER_FILTER * f + 2 * plane;
        double s1 = memory[m];
        double s2 = memory[m + 1];
        for (int i = 0; i < frames; i++) {
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

    void reset() {
        Arrays.fill(memory, 0);
    }

    /** Goes on from where another chain of as many filters stands. */
    void adopt(FilterChain other) {
        if (memory.length == other.memory.length) {
            System.arraycopy(other.memory, 0, memory, 0, memory.length);
        }
    }
}
