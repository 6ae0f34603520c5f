package waterwheel.core.metering;

/**
 * The K-weighting filter of ITU-R BS.1770-5 Annex 1: a high shelf of +4 dB for the head, then a high-pass. The
 * standard prints coefficients for 48 kHz only; for other rates they follow from the analogue prototypes that give
 * those (shelf at 1681.97 Hz, Q 0.7072, +3.99984 dB; high-pass at 38.1355 Hz, Q 0.5003) by the bilinear transform.
 * At 48 kHz they agree with the standard's table to 1e-7.
 *
 * <p>Direct form I: the feedback path of each section is one multiplication and one addition long, which lets a
 * processor overlap consecutive samples. State is double. One thread at a time.
 */
final class KWeighting {
    private static final double SILENT = 1e-15;

    private final double shelfB0;
    private final double shelfB1;
    private final double shelfB2;
    private final double shelfA1;
    private final double shelfA2;
    private final double passA1;
    private final double passA2;
    // Inputs x and outputs y of the shelf, outputs z of the high-pass; 1 and 2 samples ago.
    private double x1;
    private double x2;
    private double y1;
    private double y2;
    private double z1;
    private double z2;

    KWeighting(int sampleRateHz) {
        double k = Math.tan(Math.PI * 1681.974450955533 / sampleRateHz);
        double q = 0.7071752369554196;
        double high = Math.pow(10, 3.999843853973347 / 20);
        double band = Math.pow(high, 0.4996667741545416);
        double a0 = 1 + k / q + k * k;
        shelfB0 = (high + band * k / q + k * k) / a0;
        shelfB1 = 2 * (k * k - high) / a0;
        shelfB2 = (high - band * k / q + k * k) / a0;
        shelfA1 = 2 * (k * k - 1) / a0;
        shelfA2 = (1 - k / q + k * k) / a0;

        double kp = Math.tan(Math.PI * 38.13547087602444 / sampleRateHz);
        double qp = 0.5003270373238773;
        double p0 = 1 + kp / qp + kp * kp;
        passA1 = 2 * (kp * kp - 1) / p0;
        passA2 = (1 - kp / qp + kp * kp) / p0;
    }

    /** Coefficients b0, b1, b2, a1, a2 of the shelf, then a1, a2 of the high-pass (whose b are 1, -2, 1). */
    double[] coefficients() {
        return new double[] {shelfB0, shelfB1, shelfB2, shelfA1, shelfA2, passA1, passA2};
    }

    /** Filters frames and returns the sum of squares of the result; the samples themselves stay as they are. */
    double energy(float[] samples, int from, int count) {
        final double b0 = shelfB0;
        final double b1 = shelfB1;
        final double b2 = shelfB2;
        final double a1 = shelfA1;
        final double a2 = shelfA2;
        final double c1 = passA1;
        final double c2 = passA2;
        double xa = x1;
        double xb = x2;
        double ya = y1;
        double yb = y2;
        double za = z1;
        double zb = z2;
        double sum = 0;
        for (int i = from, end = from + count; i < end; i++) {
            double x = samples[i];
            double y = (b0 * x + b1 * xa + b2 * xb - a2 * yb) - a1 * ya;
            double z = (y - 2 * ya + yb - c2 * zb) - c1 * za;
            sum += z * z;
            xb = xa;
            xa = x;
            yb = ya;
            ya = y;
            zb = za;
            za = z;
        }
        x1 = xa;
        x2 = xb;
        y1 = flushed(ya);
        y2 = flushed(yb);
        z1 = flushed(za);
        z2 = flushed(zb);
        return sum;
    }

    /** Keeps decaying state out of the denormal numbers, which are many times slower. */
    private static double flushed(double state) {
        return Math.abs(state) < SILENT ? 0 : state;
    }
}
