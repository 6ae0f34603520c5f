package waterwheel.core.metering;

import waterwheel.core.units.Bessel;

/**
 * The filter that finds true peaks: a Kaiser-windowed sinc (beta 8) of 24 taps per phase, each phase normalised to unity
 * at DC: flat within 0.05 dB to 18 kHz at 48 kHz.
 */
public final class TruePeakTaps {
    public static final int TAPS = 24;

    private static final double BETA = 8;

    private TruePeakTaps() {}

    /**
     * Taps for the points between two samples, evenly apart so that the signal is oversampled to at least 176.4 kHz.
     *
     * @return {@code [point][tap]}, the newest sample's tap first; the points lie between the samples 12 and 11 frames
     *     before the newest
     */
    public static float[][] of(int sampleRateHz) {
        int factor = sampleRateHz < 80_000 ? 4 : sampleRateHz < 160_000 ? 2 : 1;
        float[][] phases = new float[factor - 1][];
        for (int p = 1; p < factor; p++) {
            phases[p - 1] = phase((double) p / factor);
        }
        return phases;
    }

    /** The point that ends at a sample, in double precision. */
    static double point(float[] taps, float[] samples, int newest) {
        double sum = 0;
        for (int k = 0; k < TAPS; k++) {
            sum += (double) taps[k] * samples[newest - k];
        }
        return sum;
    }

    /** Taps that give the signal between two samples, at the given part of the distance. */
    private static float[] phase(double fraction) {
        double[] taps = new double[TAPS];
        double sum = 0;
        for (int k = 0; k < TAPS; k++) {
            double t = k - TAPS / 2 + fraction;
            double window = Bessel.i0(BETA * Math.sqrt(Math.max(0, 1 - Math.pow(t / (TAPS / 2.0), 2))));
            taps[k] = Math.sin(Math.PI * t) / (Math.PI * t) * window;
            sum += taps[k];
        }
        float[] out = new float[TAPS];
        for (int k = 0; k < TAPS; k++) {
            out[k] = (float) (taps[k] / sum);
        }
        return out;
    }
}
