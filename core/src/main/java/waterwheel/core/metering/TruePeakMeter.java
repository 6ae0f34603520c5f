package waterwheel.core.metering;

import java.util.Arrays;

/**
 * True peak of one plane after ITU-R BS.1770-5 Annex 2: the largest magnitude of the signal oversampled to at least
 * 176.4 kHz (4 times at 44.1 and 48 kHz, 2 times at 88.2 and 96 kHz).
 *
 * <p>Interpolation is by {@link TruePeakTaps}.
 *
 * <p>Stretches of 64 samples that cannot hold a new maximum are not interpolated; the result is the same as if they
 * were. Two bounds tell. The interpolated value is at most the loudest sample times the sum of the taps' magnitudes.
 * And it differs from the straight line between its two neighbours only by a weighted sum of second differences
 * (summation by parts, twice), so that where the wave bends little it stays close to its samples. One thread at a time.
 */
public final class TruePeakMeter {
    private static final int TAPS = TruePeakTaps.TAPS;
    private static final int STRETCH = 64;
    /** Covers the rounding of the sums. */
    private static final double ROUNDING = 1.000_01;

    private final float[][] phases;
    /** The most by which interpolation can exceed the loudest sample: the largest sum of magnitudes of a phase. */
    private final float mostGain;
    /** Bound from the samples near by: {@code nearGain |x| + curveGain |second difference|}. */
    private final double nearGain;

    private final double curveGain;

    // The stretch before the present one, then the present one.
    private final float[] work = new float[2 * STRETCH];
    private final double[] sums = new double[STRETCH];
    private final PeakScan scan = new PeakScan();
    private int filled;
    private float previousLoudest;
    private double maximum;

    public TruePeakMeter(int sampleRateHz) {
        phases = TruePeakTaps.of(sampleRateHz);
        int factor = phases.length + 1;
        double most = 1;
        double first = 0;
        double second = 0;
        for (int p = 1; p < factor; p++) {
            float[] taps = phases[p - 1];
            double sum = 0;
            for (float tap : taps) {
                sum += Math.abs(tap);
            }
            most = Math.max(most, sum);
            double[] bends = bendGains(taps, (double) p / factor);
            first = Math.max(first, bends[0]);
            second = Math.max(second, bends[1]);
        }
        mostGain = (float) (most * ROUNDING);
        nearGain = (1 + first) * ROUNDING;
        curveGain = second * ROUNDING;
    }

    /**
     * Bounds the difference between a phase and the straight line between the two middle samples. With d the difference
     * of the taps, D its running sum and m the sum of D, {@code Σ d x = m Δx + Σ E Δ²x} where E is the running sum of D
     * less m at one place; |Δx| is at most 2 |x|.
     *
     * @return 2 |m| plus what rounding leaves of the sum of d, and the sum of |E|
     */
    private static double[] bendGains(float[] taps, double fraction) {
        double sum = 0;
        double moment = 0;
        double[] running = new double[TAPS];
        for (int k = 0; k < TAPS; k++) {
            // The tap of sample k stands at k - TAPS/2 + fraction, so the two middle ones are TAPS/2 - 1 and TAPS/2.
            double line = k == TAPS / 2 ? 1 - fraction : k == TAPS / 2 - 1 ? fraction : 0;
            sum += taps[k] - line;
            running[k] = sum;
            moment += sum;
        }
        double twice = 0;
        double magnitudes = 0;
        for (int k = 0; k < TAPS; k++) {
            twice += running[k] - (k == TAPS / 2 ? moment : 0);
            magnitudes += Math.abs(twice);
        }
        return new double[] {2 * Math.abs(moment) + Math.abs(sum) * TAPS, magnitudes};
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
        nearGain = other.nearGain;
        curveGain = other.curveGain;
        System.arraycopy(other.work, 0, work, 0, work.length);
        filled = other.filled;
        previousLoudest = other.previousLoudest;
        maximum = other.maximum;
    }

    private void finishStretch() {
        float loudest = scan.loudest(work, STRETCH, STRETCH);
        maximum = Math.max(maximum, loudest);
        float near = Math.max(loudest, previousLoudest);
        if (near * mostGain > maximum && near * nearGain + curveGain * sharpestBend() > maximum) {
            for (float[] taps : phases) {
                interpolate(taps);
                maximum = Math.max(maximum, loudest(sums));
            }
        }
        System.arraycopy(work, STRETCH, work, 0, STRETCH);
        previousLoudest = loudest;
        filled = 0;
    }

    /** Largest magnitude of the second difference of all samples that the present stretch's interpolation meets. */
    private double sharpestBend() {
        double a = 0;
        double b = 0;
        for (int i = STRETCH - TAPS; i < 2 * STRETCH - 1; i += 2) {
            a = Math.max(a, Math.abs(work[i] - 2.0 * work[i - 1] + work[i - 2]));
            b = Math.max(b, Math.abs(work[i + 1] - 2.0 * work[i] + work[i - 1]));
        }
        return Math.max(a, b);
    }

    /** Filters the present stretch by one phase. */
    private void interpolate(float[] taps) {
        final double[] sum = sums;
        final float[] x = work;
        Arrays.fill(sum, 0);
        for (int k = 0; k < TAPS; k++) {
            double tap = taps[k];
            int offset = STRETCH - k;
            for (int i = 0; i < STRETCH; i++) {
                sum[i] += tap * x[offset + i];
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
