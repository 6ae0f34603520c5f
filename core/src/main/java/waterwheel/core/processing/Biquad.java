package waterwheel.core.processing;

import java.util.Arrays;

/**
 * A second-order filter in transposed direct form II, in double. Coefficients after R. Bristow-Johnson, Audio EQ
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

    /** What the filter remembers, for up to two planes. */
    static final class State {
        private final double[] memory = new double[4];

        void reset() {
            Arrays.fill(memory, 0);
        }

        void adopt(State other) {
            System.arraycopy(other.memory, 0, memory, 0, memory.length);
        }

        /** Filters one plane in place. */
        void mono(Biquad filter, float[] signal, int frames) {
            final double b0 = filter.b0;
            final double b1 = filter.b1;
            final double b2 = filter.b2;
            final double a1 = filter.a1;
            final double a2 = filter.a2;
            double z1 = memory[0];
            double z2 = memory[1];
            for (int i = 0; i < frames; i++) {
                double x = signal[i];
                double y = b0 * x + z1;
                z1 = b1 * x - a1 * y + z2;
                z2 = b2 * x - a2 * y;
                signal[i] = (float) y;
            }
            memory[0] = settled(z1);
            memory[1] = settled(z2);
        }

        /** Filters both planes in one loop, because neither waits for the other. */
        void stereo(Biquad filter, float[] left, float[] right, int frames) {
            final double b0 = filter.b0;
            final double b1 = filter.b1;
            final double b2 = filter.b2;
            final double a1 = filter.a1;
            final double a2 = filter.a2;
            double l1 = memory[0];
            double l2 = memory[1];
            double r1 = memory[2];
            double r2 = memory[3];
            for (int i = 0; i < frames; i++) {
                double l = left[i];
                double r = right[i];
                double yl = b0 * l + l1;
                double yr = b0 * r + r1;
                l1 = b1 * l - a1 * yl + l2;
                r1 = b1 * r - a1 * yr + r2;
                l2 = b2 * l - a2 * yl;
                r2 = b2 * r - a2 * yr;
                left[i] = (float) yl;
                right[i] = (float) yr;
            }
            memory[0] = settled(l1);
            memory[1] = settled(l2);
            memory[2] = settled(r1);
            memory[3] = settled(r2);
        }

        /** Below this there is nothing to hear, and numbers that small would slow the processor down. */
        private static double settled(double value) {
            return Math.abs(value) < 1e-30 ? 0 : value;
        }
    }
}
