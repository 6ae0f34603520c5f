package waterwheel.core.metering;

import waterwheel.core.units.Decibels;

/**
 * A standard volume indicator after IEC 60268-17: it shows the average of the rectified signal, reaches 99 % of a
 * steady tone's reading in 300 ms and then swings over it by 1 to 1.5 %. The movement is that of a damped second-order
 * system: an overshoot of 1.25 % wants a damping ratio of 0.8128, and 99 % at 0.3 s then wants 13.515 rad/s.
 *
 * <p>Calibrated so that a sine of the reference level reads 0 VU. One plane; one thread at a time.
 */
public final class VuMeter {
    private static final double DAMPING = 0.8128;
    private static final double RATE_RAD_PER_SECOND = 13.515;
    private static final double SILENT = 1e-15;

    private final double b0;
    private final double a1;
    private final double a2;
    private final double toReading;
    private double s1;
    private double s2;
    private double deflection;
    private double largest;

    /** @param referenceDbfs level of the sine that reads 0 VU */
    public VuMeter(int sampleRateHz, double referenceDbfs) {
        // Bilinear transform of w² / (s² + 2 d w s + w²); the movement is so slow that no prewarping is needed.
        double k = RATE_RAD_PER_SECOND / (2.0 * sampleRateHz);
        double a0 = 1 + 2 * DAMPING * k + k * k;
        b0 = k * k / a0;
        a1 = 2 * (k * k - 1) / a0;
        a2 = (1 - 2 * DAMPING * k + k * k) / a0;
        // A rectified sine of amplitude 1 has the mean 2/pi.
        toReading = Math.PI / 2 / Decibels.toFactor(referenceDbfs);
    }

    /** Takes samples, full scale ±1.0. */
    public void process(float[] samples, int from, int count) {
        double z1 = s1;
        double z2 = s2;
        double y = deflection;
        double most = largest;
        for (int i = from, end = from + count; i < end; i++) {
            double x = b0 * Math.abs(samples[i]);
            y = x + z1;
            z1 = 2 * x - a1 * y + z2;
            z2 = x - a2 * y;
            most = Math.max(most, y);
        }
        s1 = Math.abs(z1) < SILENT ? 0 : z1;
        s2 = Math.abs(z2) < SILENT ? 0 : z2;
        deflection = y;
        largest = most;
    }

    /** Takes over the movement of another meter of the same rate; the highest reading stays its own. */
    public void adopt(VuMeter other) {
        s1 = other.s1;
        s2 = other.s2;
        deflection = other.deflection;
    }

    /** The reading now in VU (dB relative to the reference). */
    public double readingVu() {
        return Decibels.ofFactor(Math.max(0, deflection) * toReading);
    }

    /** The highest reading so far in VU. */
    public double highestVu() {
        return Decibels.ofFactor(largest * toReading);
    }
}
