package waterwheel.core.metering;

/**
 * Sums of squares of a stretch, plain and K-weighted, of one or two planes in one pass. A recursive filter leaves a
 * processor waiting for its own last result most of the time; with both planes and all sums in one loop that time is
 * used, and the second plane and the sums cost next to nothing.
 *
 * <p>Filters in direct form I, whose feedback is one multiplication and one addition long. State is double. One thread
 * at a time; allocates nothing after construction.
 */
final class StepEnergies {
    private static final double SILENT = 1e-15;
    /** Per plane: inputs x, shelf outputs y and high-pass outputs z, each 1 and 2 samples ago. */
    private static final int STATE = 6;

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

    /** Sums without the filter; what is K-weighted is not a number then. */
    void plain(float[][] signal, int planes, int from, int count) {
        for (int p = 0; p < planes; p++) {
            energy[p] = product(signal[p], signal[p], from, count);
            weighted[p] = Double.NaN;
        }
        if (planes == 2) {
            cross = product(signal[0], signal[1], from, count);
        }
    }

    /** Sum of products. Four sums side by side, because one would make every addition wait for the one before. */
    private static double product(float[] a, float[] b, int from, int count) {
        double s0 = 0;
        double s1 = 0;
        double s2 = 0;
        double s3 = 0;
        int i = from;
        for (int end = from + count - 3; i < end; i += 4) {
            s0 += (double) a[i] * b[i];
            s1 += (double) a[i + 1] * b[i + 1];
            s2 += (double) a[i + 2] * b[i + 2];
            s3 += (double) a[i + 3] * b[i + 3];
        }
        for (int end = from + count; i < end; i++) {
            s0 += (double) a[i] * b[i];
        }
        return s0 + s1 + (s2 + s3);
    }

    void mono(float[] samples, int from, int count) {
        final double b0 = filter.shelfB0();
        final double b1 = filter.shelfB1();
        final double b2 = filter.shelfB2();
        final double a1 = filter.shelfA1();
        final double a2 = filter.shelfA2();
        final double c1 = filter.passA1();
        final double c2 = filter.passA2();
        double x1 = state[0];
        double x2 = state[1];
        double y1 = state[2];
        double y2 = state[3];
        double z1 = state[4];
        double z2 = state[5];
        double plain = 0;
        double heard = 0;
        for (int i = from, end = from + count; i < end; i++) {
            double x = samples[i];
            double y = (b0 * x + b1 * x1 + b2 * x2 - a2 * y2) - a1 * y1;
            double z = (y - 2 * y1 + y2 - c2 * z2) - c1 * z1;
            plain += x * x;
            heard += z * z;
            x2 = x1;
            x1 = x;
            y2 = y1;
            y1 = y;
            z2 = z1;
            z1 = z;
        }
        keep(0, x1, x2, y1, y2, z1, z2);
        energy[0] = plain;
        weighted[0] = heard;
    }

    void stereo(float[] left, float[] right, int from, int count) {
        final double b0 = filter.shelfB0();
        final double b1 = filter.shelfB1();
        final double b2 = filter.shelfB2();
        final double a1 = filter.shelfA1();
        final double a2 = filter.shelfA2();
        final double c1 = filter.passA1();
        final double c2 = filter.passA2();
        double x1 = state[0];
        double x2 = state[1];
        double y1 = state[2];
        double y2 = state[3];
        double z1 = state[4];
        double z2 = state[5];
        double u1 = state[6];
        double u2 = state[7];
        double v1 = state[8];
        double v2 = state[9];
        double w1 = state[10];
        double w2 = state[11];
        double plainLeft = 0;
        double plainRight = 0;
        double heardLeft = 0;
        double heardRight = 0;
        double product = 0;
        for (int i = from, end = from + count; i < end; i++) {
            double x = left[i];
            double u = right[i];
            double y = (b0 * x + b1 * x1 + b2 * x2 - a2 * y2) - a1 * y1;
            double v = (b0 * u + b1 * u1 + b2 * u2 - a2 * v2) - a1 * v1;
            double z = (y - 2 * y1 + y2 - c2 * z2) - c1 * z1;
            double w = (v - 2 * v1 + v2 - c2 * w2) - c1 * w1;
            plainLeft += x * x;
            plainRight += u * u;
            heardLeft += z * z;
            heardRight += w * w;
            product += x * u;
            x2 = x1;
            x1 = x;
            y2 = y1;
            y1 = y;
            z2 = z1;
            z1 = z;
            u2 = u1;
            u1 = u;
            v2 = v1;
            v1 = v;
            w2 = w1;
            w1 = w;
        }
        keep(0, x1, x2, y1, y2, z1, z2);
        keep(STATE, u1, u2, v1, v2, w1, w2);
        energy[0] = plainLeft;
        energy[1] = plainRight;
        weighted[0] = heardLeft;
        weighted[1] = heardRight;
        cross = product;
    }

    private void keep(int at, double x1, double x2, double y1, double y2, double z1, double z2) {
        state[at] = x1;
        state[at + 1] = x2;
        state[at + 2] = flushed(y1);
        state[at + 3] = flushed(y2);
        state[at + 4] = flushed(z1);
        state[at + 5] = flushed(z2);
    }

    /** Keeps decaying state out of the denormal numbers, which are many times slower. */
    private static double flushed(double value) {
        return Math.abs(value) < SILENT ? 0 : value;
    }
}
