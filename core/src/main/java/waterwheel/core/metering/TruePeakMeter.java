package waterwheel.core.metering;

import java.util.Arrays;

/**
 * True peak of one plane after ITU-R BS.1770-5 Annex 2: the largest magnitude of the signal oversampled to at least
 * 176.4 kHz (4 times at 44.1 and 48 kHz, 2 times at 88.2 and 96 kHz).
 *
 * <p>Interpolation is by a Kaiser-windowed sinc (beta 8) of 24 taps per phase, each phase normalised to unity at DC:
 * flat within 0.05 dB to 18 kHz at 48 kHz. Stretches of 64 samples whose loudest sample could not reach a new maximum
 * even if every tap met it with its own sign are skipped; the result is the same to the bit. One thread at a time.
 */
public final class TruePeakMeter {
    private static final int TAPS = 24;
    private static final int STRETCH = 64;
    private static final double BETA = 8;

    private final float[][] phases;
    /** The most by which interpolation can exceed the loudest sample: the largest sum of magnitudes of a phase. */
    private final float mostGain;

    // The stretch before the present one, then the present one.
    private final float[] work = new float[2 * STRETCH];
    private final double[] sums = new double[STRETCH];
    private final PeakScan scan = new PeakScan();
    private int filled;
    private float previousLoudest;
    private double maximum;

    public TruePeakMeter(int sampleRateHz) {
        int factor = sampleRateHz < 80_000 ? 4 : sampleRateHz < 160_000 ? 2 : 1;
        phases = new float[factor - 1][];
        double most = 1;
        for (int p = 1; p < factor; p++) {
            phases[p - 1] = phase((double) p / factor);
            double sum = 0;
            for (float tap : phases[p - 1]) {
                sum += Math.abs(tap);
            }
            most = Math.max(most, sum);
        }
        mostGain = (float) (most * 1.000_01);
    }

    /** Taps that give the signal between two samples, at the given part of the distance. */
    private static float[] phase(double fraction) {
        double[] taps = new double[TAPS];
        double sum = 0;
        for (int k = 0; k < TAPS; k++) {
            double t = k - TAPS / 2 + fraction;
            double window = besselI0(BETA * Math.sqrt(Math.max(0, 1 - Math.pow(t / (TAPS / 2.0), 2))));
            taps[k] = Math.sin(Math.PI * t) / (Math.PI * t) * window;
            sum += taps[k];
        }
        float[] out = new float[TAPS];
        for (int k = 0; k < TAPS; k++) {
            out[k] = (float) (taps[k] / sum);
        }
        return out;
    }

    /** Modified Bessel function of the first kind and order 0, by its power series (Abramowitz and Stegun 9.6.12). */
    private static double besselI0(double x) {
        double sum = 1;
        double term = 1;
        for (int k = 1; term > sum * 1e-17; k++) {
            term *= x * x / (4.0 * k * k);
            sum += term;
        }
        return sum;
    }

    /** Takes samples, full scale ±1.0. */
    public void process(float[] samples, int from, int count) {
        for (int done = 0; done < count; ) {
            int part = Math.min(count - done, STRETCH - filled);
            System.arraycopy(samples, from + done, work, STRETCH + filled, part);
            filled += part;
            done += part;
            if (filled == STRETCH) {
                finishStretch();
            }
        }
    }

    /** The largest magnitude so far, linear, as if silence followed. */
    public double maximum() {
        if (filled == 0 && previousLoudest == 0) {
            return maximum;
        }
        // Let the last samples run through the interpolation, in a copy, so that more may still come.
        TruePeakMeter rest = new TruePeakMeter(this);
        rest.process(new float[2 * STRETCH - filled], 0, 2 * STRETCH - filled);
        return rest.maximum;
    }

    private TruePeakMeter(TruePeakMeter other) {
        phases = other.phases;
        mostGain = other.mostGain;
        System.arraycopy(other.work, 0, work, 0, work.length);
        filled = other.filled;
        previousLoudest = other.previousLoudest;
        maximum = other.maximum;
    }

    private void finishStretch() {
        float loudest = scan.loudest(work, STRETCH, STRETCH);
        maximum = Math.max(maximum, loudest);
        if (Math.max(loudest, previousLoudest) * mostGain > maximum) {
            for (float[] taps : phases) {
                interpolate(taps);
                maximum = Math.max(maximum, loudest(sums));
            }
        }
        System.arraycopy(work, STRETCH, work, 0, STRETCH);
        previousLoudest = loudest;
        filled = 0;
    }

    /**
     * Filters the present stretch by one phase. Sums in double not for their precision but because C2 turns loops that
     * read floats and write doubles into vector instructions, and not ones that read and write floats, which might
     * overlap.
     */
    private void interpolate(float[] taps) {
        final double[] sum = sums;
        final float[] x = work;
        Arrays.fill(sum, 0);
        for (int k = 0; k < TAPS; k += 4) {
            double a = taps[k];
            double b = taps[k + 1];
            double c = taps[k + 2];
            double d = taps[k + 3];
            int offset = STRETCH - k;
            for (int i = 0; i < STRETCH; i++) {
                sum[i] += ((a * x[offset + i] + b * x[offset + i - 1]) + c * x[offset + i - 2]) + d * x[offset + i - 3];
            }
        }
    }

    private static double loudest(double[] values) {
        double a = 0;
        double b = 0;
        for (int i = 0; i < values.length; i += 2) {
            a = Math.max(a, Math.abs(values[i]));
            b = Math.max(b, Math.abs(values[i + 1]));
        }
        return Math.max(a, b);
    }
}
