package waterwheel.core.metering;

/**
 * Tells which of the points between samples can be higher than a maximum, at a small part of what computing them costs.
 * A point is at most what the taps nearest to it give, and the loudest sample near by times the other taps' magnitudes.
 * The four nearest are looked at first; where they leave it open, the eight nearest; where these do, the point itself.
 *
 * <p>The nearest taps are summed over a stretch at a time, each tap's samples in an array of their own, into integers:
 * only so are the loops compiled to vector instructions, which makes them six times as fast.
 */
final class TruePeakScreen {
    /** Points that are looked at together. */
    static final int STRETCH = 256;

    private static final int TAPS = TruePeakTaps.TAPS;
    private static final int NEAREST = 4;
    /** Of the nearest taps, the first. */
    private static final int FIRST = (TAPS - NEAREST) / 2;
    /** The limit as an integer, so that one is a rounding of a millionth. */
    private static final int SCALE = 1 << 20;
    /** Covers the rounding of what is summed in single precision and as integers. */
    private static final double ROUNDING = 1e-5;

    private final float[] taps;
    private final int[] sums = new int[STRETCH];
    /** Sum of the taps' magnitudes: of all, of all but the four and of all but the eight nearest. */
    private final double gain;

    private final double butFour;
    private final double butEight;

    TruePeakScreen(float[] taps) {
        this.taps = taps;
        gain = magnitudes(0, TAPS);
        butFour = gain - magnitudes(FIRST, FIRST + 4);
        butEight = gain - magnitudes(FIRST - 2, FIRST + 6);
    }

    private double magnitudes(int from, int to) {
        double sum = 0;
        for (int k = from; k < to; k++) {
            sum += Math.abs(taps[k]);
        }
        return sum * (1 + ROUNDING);
    }

    /** The most by which a point can exceed the loudest sample, linear. */
    double gain() {
        return gain;
    }

    /**
     * Returns the largest magnitude of the points that end in a window, or the given one where that is larger.
     *
     * @param near the loudest sample that the points can meet, at most the given maximum, which is above 0
     */
    double highest(Window window, double near, double maximum) {
        double limit = limit(maximum, near * butFour);
        window.four(sums, taps, scale(limit));
        if (!exceeds(window.count)) {
            return maximum;
        }
        limit = limit(maximum, near * butEight);
        window.four(sums, taps, scale(limit));
        window.nextFour(sums, taps, scale(limit));
        if (!exceeds(window.count)) {
            return maximum;
        }
        double most = maximum;
        for (int i = 0; i < window.count; i++) {
            if (Math.abs(sums[i]) > SCALE) {
                most = Math.max(most, Math.abs(TruePeakTaps.point(taps, window.samples, window.from + i)));
            }
        }
        return most;
    }

    private static double limit(double maximum, double others) {
        return maximum * (1 - ROUNDING) - others;
    }

    private static float scale(double limit) {
        return (float) (SCALE / limit);
    }

    private boolean exceeds(int count) {
        int most = 0;
        for (int i = 0; i < count; i++) {
            most = Math.max(most, Math.abs(sums[i]));
        }
        return most > SCALE;
    }

    /** The samples that the taps meet, for all phases. */
    static final class Window {
        /** By tap of the eight nearest, the newest sample's first: the sample that it meets at each point. */
        private final float[][] met = new float[8][STRETCH];

        private float[] samples = {};
        private int from;
        private int count;

        /** Looks at the points that end at some samples. */
        void of(float[] samples, int from, int count) {
            this.samples = samples;
            this.from = from;
            this.count = count;
            for (int k = 2; k < 6; k++) {
                copy(k);
            }
        }

        private void copy(int k) {
            System.arraycopy(samples, from - FIRST + 2 - k, met[k], 0, count);
        }

        private void four(int[] sums, float[] taps, float scale) {
            final float[] x0 = met[2];
            final float[] x1 = met[3];
            final float[] x2 = met[4];
            final float[] x3 = met[5];
            final float a = taps[FIRST] * scale;
            final float b = taps[FIRST + 1] * scale;
            final float c = taps[FIRST + 2] * scale;
            final float d = taps[FIRST + 3] * scale;
            for (int i = 0; i < count; i++) {
                sums[i] = (int) (a * x0[i] + b * x1[i] + c * x2[i] + d * x3[i]);
            }
        }

        private void nextFour(int[] sums, float[] taps, float scale) {
            // Rarely wanted, so that these are not copied before.
            copy(0);
            copy(1);
            copy(6);
            copy(7);
            final float[] x0 = met[0];
            final float[] x1 = met[1];
            final float[] x2 = met[6];
            final float[] x3 = met[7];
            final float a = taps[FIRST - 2] * scale;
            final float b = taps[FIRST - 1] * scale;
            final float c = taps[FIRST + 4] * scale;
            final float d = taps[FIRST + 5] * scale;
            for (int i = 0; i < count; i++) {
                sums[i] += (int) (a * x0[i] + b * x1[i] + c * x2[i] + d * x3[i]);
            }
        }
    }
}
