package waterwheel.core.metering;

/**
 * Sums over stretches of samples, in double. Four run side by side, because one would make every addition wait for the
 * one before.
 */
public final class Sums {
    private Sums() {}

    /** The sum of some samples. */
    public static double of(float[] samples, int from, int count) {
        double a = 0;
        double b = 0;
        double c = 0;
        double d = 0;
        int i = from;
        for (int end = from + count - 3; i < end; i += 4) {
            a += samples[i];
            b += samples[i + 1];
            c += samples[i + 2];
            d += samples[i + 3];
        }
        for (; i < from + count; i++) {
            a += samples[i];
        }
        return (a + b) + (c + d);
    }

    /** The sum of their magnitudes. */
    static double ofMagnitudes(float[] samples, int from, int count) {
        double a = 0;
        double b = 0;
        double c = 0;
        double d = 0;
        int i = from;
        for (int end = from + count - 3; i < end; i += 4) {
            a += Math.abs(samples[i]);
            b += Math.abs(samples[i + 1]);
            c += Math.abs(samples[i + 2]);
            d += Math.abs(samples[i + 3]);
        }
        for (; i < from + count; i++) {
            a += Math.abs(samples[i]);
        }
        return (a + b) + (c + d);
    }

    /** The sum of their squares. */
    public static double ofSquares(float[] samples, int from, int count) {
        double a = 0;
        double b = 0;
        double c = 0;
        double d = 0;
        int i = from;
        for (int end = from + count - 3; i < end; i += 4) {
            a += (double) samples[i] * samples[i];
            b += (double) samples[i + 1] * samples[i + 1];
            c += (double) samples[i + 2] * samples[i + 2];
            d += (double) samples[i + 3] * samples[i + 3];
        }
        for (; i < from + count; i++) {
            a += (double) samples[i] * samples[i];
        }
        return (a + b) + (c + d);
    }
}
