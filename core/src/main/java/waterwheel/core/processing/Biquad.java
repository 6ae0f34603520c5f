package waterwheel.core.processing;

import waterwheel.core.units.Decibels;

/**
 * The coefficients of second-order filters, each five numbers of an array: the numerator's b0, b1, b2 and the
 * denominator's a1, a2, divided by a0. After R. Bristow-Johnson, Audio EQ
 * Cookbook (W3C note, 2021): analogue prototypes through the bilinear transform, so that the response at a frequency f is
 * that of the prototype at tan(π f / rate) / tan(π f0 / rate). Near half the rate the upper flanks are therefore
 * narrower than the prototype's.
 */
public final class Biquad {
    /** How many numbers a filter has. */
    public static final int SIZE = 5;

    private Biquad() {}

    private static void put(double[] c, int at, double b0, double b1, double b2, double a0, double a1, double a2) {
        // Of a filter that lets all through, this is exactly 1.
        c[at] = b0 / a0;
        double scale = 1 / a0;
        c[at + 1] = b1 * scale;
        c[at + 2] = b2 * scale;
        c[at + 3] = a1 * scale;
        c[at + 4] = a2 * scale;
    }

    /** One that lets all through. */
    public static void flat(double[] c, int at) {
        put(c, at, 1, 0, 0, 1, 0, 0);
    }

    /** The angle that a frequency turns by from frame to frame, in radians. */
    static double angle(double hertz, int rate) {
        return 2 * Math.PI * Math.min(hertz, 0.49 * rate) / rate;
    }

    public static void highPass(double[] to, int at, double hertz, double q, int rate) {
        double w = angle(hertz, rate);
        highPass(to, at, Math.sin(w), Math.cos(w), q);
    }

    static void highPass(double[] to, int at, double sin, double cos, double q) {
        double alpha = sin / (2 * q);
        put(to, at, (1 + cos) / 2, -(1 + cos), (1 + cos) / 2, 1 + alpha, -2 * cos, 1 - alpha);
    }

    public static void lowPass(double[] to, int at, double hertz, double q, int rate) {
        double w = angle(hertz, rate);
        lowPass(to, at, Math.sin(w), Math.cos(w), q);
    }

    static void lowPass(double[] to, int at, double sin, double cos, double q) {
        double alpha = sin / (2 * q);
        put(to, at, (1 - cos) / 2, 1 - cos, (1 - cos) / 2, 1 + alpha, -2 * cos, 1 - alpha);
    }

    /** A turn of the phase through 360 degrees, and no change of level. */
    public static void allPass(double[] to, int at, double hertz, double q, int rate) {
        double w = angle(hertz, rate);
        double alpha = Math.sin(w) / (2 * q);
        double c = Math.cos(w);
        put(to, at, 1 - alpha, -2 * c, 1 + alpha, 1 + alpha, -2 * c, 1 - alpha);
    }

    public static void bell(double[] to, int at, double hertz, double q, double db, int rate) {
        double w = angle(hertz, rate);
        bell(to, at, Math.sin(w), Math.cos(w), q, Decibels.toFactor(db / 2));
    }

    /** @param a the square root of the gain, linear; likewise below */
    static void bell(double[] to, int at, double sin, double cos, double q, double a) {
        double alpha = sin / (2 * q);
        put(to, at, 1 + alpha * a, -2 * cos, 1 - alpha * a, 1 + alpha / a, -2 * cos, 1 - alpha / a);
    }

    public static void lowShelf(double[] to, int at, double hertz, double db, int rate) {
        double w = angle(hertz, rate);
        lowShelf(to, at, Math.sin(w), Math.cos(w), Decibels.toFactor(db / 2));
    }

    static void lowShelf(double[] to, int at, double sin, double c, double a) {
        double r = 2 * Math.sqrt(a) * sin / Math.sqrt(2);
        put(
                to,
                at,
                a * (a + 1 - (a - 1) * c + r),
                2 * a * (a - 1 - (a + 1) * c),
                a * (a + 1 - (a - 1) * c - r),
                a + 1 + (a - 1) * c + r,
                -2 * (a - 1 + (a + 1) * c),
                a + 1 + (a - 1) * c - r);
    }

    public static void highShelf(double[] to, int at, double hertz, double db, int rate) {
        double w = angle(hertz, rate);
        highShelf(to, at, Math.sin(w), Math.cos(w), Decibels.toFactor(db / 2));
    }

    static void highShelf(double[] to, int at, double sin, double c, double a) {
        double r = 2 * Math.sqrt(a) * sin / Math.sqrt(2);
        put(
                to,
                at,
                a * (a + 1 + (a - 1) * c + r),
                -2 * a * (a - 1 + (a + 1) * c),
                a * (a + 1 + (a - 1) * c - r),
                a + 1 - (a - 1) * c + r,
                2 * (a - 1 - (a + 1) * c),
                a + 1 - (a - 1) * c - r);
    }

    /** Magnitude of a filter's response at a frequency, linear. */
    public static double magnitude(double[] c, int at, double hertz, int rate) {
        double w = 2 * Math.PI * hertz / rate;
        double c1 = Math.cos(w);
        double c2 = Math.cos(2 * w);
        double s1 = Math.sin(w);
        double s2 = Math.sin(2 * w);
        double numerator = Math.hypot(c[at] + c[at + 1] * c1 + c[at + 2] * c2, c[at + 1] * s1 + c[at + 2] * s2);
        double denominator = Math.hypot(1 + c[at + 3] * c1 + c[at + 4] * c2, c[at + 3] * s1 + c[at + 4] * s2);
        return numerator / denominator;
    }
}
