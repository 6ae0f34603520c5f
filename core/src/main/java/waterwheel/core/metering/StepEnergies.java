package waterwheel.core.metering;

/**
 * Sums of squares of a stretch, plain and K-weighted, of one or two planes in one pass. A recursive filter leaves a
 * processor waiting for its own last result most of the time; with both planes and all sums in one loop that time is
 * used, and the second plane and the sums cost next to nothing.
 *
 * <p>Filters in transposed direct form II (Oppenheim and Schafer, structures for discrete-time systems), which leaves
 * enough registers for both planes; with {@link Math#fma}, which halves the time. State is double. One thread at a time; allocates nothing after construction.
 */
final class StepEnergies {
    private static final double SILENT = 1e-15;
    /** Per plane: two of the shelf, then two of the high-pass. */
    private static final int STATE = 4;

    private final KWeighting filter;
    private final double[] state = new double[2 * STATE];

    /** Results of the last stretch, per plane. */
    final double[] energy = new double[2];

    final double[] weighted = new double[2];
    /** Sum of left times right of the last stretch. */
    double cross;

    StepEnergies(int sampleRateHz) {
        filter = KWeighting.at(sampleRateHz);
    }

    /** Goes on from where another stands. */
    void adopt(StepEnergies other) {
        System.arraycopy(other.state, 0, state, 0, state.length);
    }

    /** Takes sums that were made without the filter; what is K-weighted is not a number then. */
    void plain(SquareSums sums) {
        energy[0] = sums.left;
        energy[1] = sums.right;
        cross = sums.product;
        weighted[0] = Double.NaN;
        weighted[1] = Double.NaN;
    }

    void mono(float[] samples, int from, int count) {
        final double b0 = filter.shelfB0();
        final double b1 = filter.shelfB1();
        final double b2 = filter.shelfB2();
        final double a1 = -filter.shelfA1();
        final double a2 = -filter.shelfA2();
        final double c1 = -filter.passA1();
        final double c2 = -filter.passA2();
        double s1 = state[0];
        double s2 = state[1];
        double p1 = state[2];
        double p2 = state[3];
        double plain = 0;
        double heard = 0;
        for (int i = from, end = from + count; i < end; i++) {
            double x = samples[i];
            double y = Math.fma(b0, x, s1);
            s1 = Math.fma(a1, y, Math.fma(b1, x, s2));
            s2 = Math.fma(a2, y, b2 * x);
            double z = y + p1;
            p1 = Math.fma(c1, z, Math.fma(-2, y, p2));
            p2 = Math.fma(c2, z, y);
            plain = Math.fma(x, x, plain);
            heard = Math.fma(z, z, heard);
        }
        keep(0, s1, s2, p1, p2);
        energy[0] = plain;
        weighted[0] = heard;
    }

    void stereo(float[] left, float[] right, int from, int count) {
        final double b0 = filter.shelfB0();
        final double b1 = filter.shelfB1();
        final double b2 = filter.shelfB2();
        final double a1 = -filter.shelfA1();
        final double a2 = -filter.shelfA2();
        final double c1 = -filter.passA1();
        final double c2 = -filter.passA2();
        double s1 = state[0];
        double s2 = state[1];
        double p1 = state[2];
        double p2 = state[3];
        double t1 = state[4];
        double t2 = state[5];
        double q1 = state[6];
        double q2 = state[7];
        double plainLeft = 0;
        double plainRight = 0;
        double heardLeft = 0;
        double heardRight = 0;
        double product = 0;
        for (int i = from, end = from + count; i < end; i++) {
            double x = left[i];
            double u = right[i];
            double y = Math.fma(b0, x, s1);
            double v = Math.fma(b0, u, t1);
            s1 = Math.fma(a1, y, Math.fma(b1, x, s2));
            t1 = Math.fma(a1, v, Math.fma(b1, u, t2));
            s2 = Math.fma(a2, y, b2 * x);
            t2 = Math.fma(a2, v, b2 * u);
            double z = y + p1;
            double w = v + q1;
            p1 = Math.fma(c1, z, Math.fma(-2, y, p2));
            q1 = Math.fma(c1, w, Math.fma(-2, v, q2));
            p2 = Math.fma(c2, z, y);
            q2 = Math.fma(c2, w, v);
            plainLeft = Math.fma(x, x, plainLeft);
            plainRight = Math.fma(u, u, plainRight);
            heardLeft = Math.fma(z, z, heardLeft);
            heardRight = Math.fma(w, w, heardRight);
            product = Math.fma(x, u, product);
        }
        keep(0, s1, s2, p1, p2);
        keep(STATE, t1, t2, q1, q2);
        energy[0] = plainLeft;
        energy[1] = plainRight;
        weighted[0] = heardLeft;
        weighted[1] = heardRight;
        cross = product;
    }

    private void keep(int at, double shelf1, double shelf2, double pass1, double pass2) {
        state[at] = flushed(shelf1);
        state[at + 1] = flushed(shelf2);
        state[at + 2] = flushed(pass1);
        state[at + 3] = flushed(pass2);
    }

    /** Keeps decaying state out of the denormal numbers, which are many times slower. */
    private static double flushed(double value) {
        return Math.abs(value) < SILENT ? 0 : value;
    }
}
