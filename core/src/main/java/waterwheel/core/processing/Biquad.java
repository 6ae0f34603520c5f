package waterwheel.core.processing;

/**
 * The coefficients of a second-order filter, after R. Bristow-Johnson, Audio EQ
 * Cookbook (W3C note, 2021): analogue prototypes through the bilinear transform, so that the response at a frequency f is
 * that of the prototype at tan(π f / rate) / tan(π f0 / rate). Near half the rate the upper flanks are therefore
 * narrower than the prototype's.
 *
 * @param b0 with b1 and b2 the numerator, divided by a0
 * @param a1 with a2 the denominator, divided by a0
 */
record Biquad(double b0, double b1, double b2, double a1, double a2) {
    private static Biquad of(double b0, double b1, double b2, double a0, double a1, double a2) {
        return new Biquad(b0 / a0, b1 / a0, b2 / a0, a1 / a0, a2 / a0);
    }

    private static double angle(double hertz, int rate) {
        return 2 * Math.PI * Math.min(hertz, 0.49 * rate) / rate;
    }

    static Biquad highPass(double hertz, double q, int rate) {
        double w = angle(hertz, rate);
        double alpha = Math.sin(w) / (2 * q);
        double c = Math.cos(w);
        return of((1 + c) / 2, -(1 + c), (1 + c) / 2, 1 + alpha, -2 * c, 1 - alpha);
    }

    static Biquad lowPass(double hertz, double q, int rate) {
        double w = angle(hertz, rate);
        double alpha = Math.sin(w) / (2 * q);
        double c = Math.cos(w);
        return of((1 - c) / 2, 1 - c, (1 - c) / 2, 1 + alpha, -2 * c, 1 - alpha);
    }

    /** A turn of the phase through 360 degrees, and no change of level. */
    static Biquad allPass(double hertz, double q, int rate) {
        double w = angle(hertz, rate);
        double alpha = Math.sin(w) / (2 * q);
        double c = Math.cos(w);
        return of(1 - alpha, -2 * c, 1 + alpha, 1 + alpha, -2 * c, 1 - alpha);
    }

    static Biquad bell(double hertz, double q, double db, int rate) {
        double w = angle(hertz, rate);
        double alpha = Math.sin(w) / (2 * q);
        double c = Math.cos(w);
        double a = Math.pow(10, db / 40);
        return of(1 + alpha * a, -2 * c, 1 - alpha * a, 1 + alpha / a, -2 * c, 1 - alpha / a);
    }

    static Biquad lowShelf(double hertz, double db, int rate) {
        double w = angle(hertz, rate);
        double c = Math.cos(w);
        double a = Math.pow(10, db / 40);
        double r = 2 * Math.sqrt(a) * Math.sin(w) / Math.sqrt(2);
        return of(
                a * (a + 1 - (a - 1) * c + r),
                2 * a * (a - 1 - (a + 1) * c),
                a * (a + 1 - (a - 1) * c - r),
                a + 1 + (a - 1) * c + r,
                -2 * (a - 1 + (a + 1) * c),
                a + 1 + (a - 1) * c - r);
    }

    static Biquad highShelf(double hertz, double db, int rate) {
        double w = angle(hertz, rate);
        double c = Math.cos(w);
        double a = Math.pow(10, db / 40);
        double r = 2 * Math.sqrt(a) * Math.sin(w) / Math.sqrt(2);
        return of(
                a * (a + 1 + (a - 1) * c + r),
                -2 * a * (a - 1 + (a + 1) * c),
                a * (a + 1 + (a - 1) * c - r),
                a + 1 - (a - 1) * c + r,
                2 * (a - 1 - (a + 1) * c),
                a + 1 - (a - 1) * c - r);
    }

    /** Magnitude of the response at a frequency, linear. */
    double magnitude(double hertz, int rate) {
        double w = 2 * Math.PI * hertz / rate;
        double c1 = Math.cos(w);
        double c2 = Math.cos(2 * w);
        double s1 = Math.sin(w);
        double s2 = Math.sin(2 * w);
        double numerator = Math.hypot(b0 + b1 * c1 + b2 * c2, b1 * s1 + b2 * s2);
        double denominator = Math.hypot(1 + a1 * c1 + a2 * c2, a1 * s1 + a2 * s2);
        return numerator / denominator;
    }
}
