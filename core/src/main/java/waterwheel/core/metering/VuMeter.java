package waterwheel.core.metering;

import waterwheel.core.units.Decibels;

/**
 * A standard volume indicator after IEC 60268-17: it shows the average of the rectified signal, reaches 99 % of a
 * steady tone's reading in 300 ms and then swings over it by 1 to 1.5 %. The movement is that of a damped second-order
 * system: an overshoot of 1.25 % wants a damping ratio of 0.8128, and 99 % at 0.3 s then wants 13.515 rad/s.
 *
 * <p>The movement is so slow that the rectified signal may be taken for constant, at its mean, over {@value #HOP} samples;
 * that moves readings above -20 VU by less than 0.01 dB. Within such a hop the system is solved exactly.
 *
 * <p>Calibrated so that a sine of the reference level reads 0 VU. One plane; one thread at a time.
 */
public final class VuMeter {
    private static final int HOP = 32;
    private static final double DAMPING = 0.8128;
    private static final double RATE_RAD_PER_SECOND = 13.515;
    private static final double SILENT = 1e-15;

    private final int sampleRateHz;
    private final Swing hop;
    private final double toReading;
    /** Sum of magnitudes of the samples since the last whole hop, and how many there are. */
    private double sum;

    private int counted;
    private double deflection;
    /** Change of the deflection per second. */
    private double speed;

    private double largest;

    /** @param referenceDbfs level of the sine that reads 0 VU */
    public VuMeter(int sampleRateHz, double referenceDbfs) {
        this.sampleRateHz = sampleRateHz;
        hop = Swing.of((double) HOP / sampleRateHz);
        // A rectified sine of amplitude 1 has the mean 2/pi.
        toReading = Math.PI / 2 / Decibels.toFactor(referenceDbfs);
    }

    /** Takes samples, full scale ±1.0. */
    public void process(float[] samples, int from, int count) {
        for (int at = from, end = from + count; at < end; ) {
            int part = Math.min(HOP - counted, end - at);
            sum += Sums.ofMagnitudes(samples, at, part);
            counted += part;
            at += part;
            if (counted == HOP) {
                move();
            }
        }
    }

    private void move() {
        double mean = sum / HOP;
        double away = deflection - mean;
        double next = mean + hop.place(away, speed);
        speed = hop.speed(away, speed);
        deflection = next;
        largest = Math.max(largest, next);
        if (mean == 0 && Math.abs(deflection) < SILENT && Math.abs(speed) < SILENT) {
            deflection = 0;
            speed = 0;
        }
        sum = 0;
        counted = 0;
    }

    /** Takes over the movement of another meter of the same rate; the highest reading stays its own. */
    public void adopt(VuMeter other) {
        sum = other.sum;
        counted = other.counted;
        deflection = other.deflection;
        speed = other.speed;
    }

    /** The reading now in VU (dB relative to the reference). */
    public double readingVu() {
        double now = deflection;
        if (counted > 0) {
            double mean = sum / counted;
            now = mean + Swing.of((double) counted / sampleRateHz).place(deflection - mean, speed);
        }
        return Decibels.ofFactor(Math.max(0, now) * toReading);
    }

    /** The highest reading so far in VU. */
    public double highestVu() {
        return Decibels.ofFactor(largest * toReading);
    }

    /**
     * The free movement of the damped system over some time: place and speed after it, each from place and speed before
     * (textbook solution of a second-order system).
     */
    private record Swing(double placeOfPlace, double placeOfSpeed, double speedOfPlace, double speedOfSpeed) {
        static Swing of(double seconds) {
            double damped = DAMPING * RATE_RAD_PER_SECOND;
            double swinging = RATE_RAD_PER_SECOND * Math.sqrt(1 - DAMPING * DAMPING);
            double decay = Math.exp(-damped * seconds);
            double cosine = decay * Math.cos(swinging * seconds);
            double sine = decay * Math.sin(swinging * seconds) / swinging;
            return new Swing(
                    cosine + damped * sine,
                    sine,
                    -RATE_RAD_PER_SECOND * RATE_RAD_PER_SECOND * sine,
                    cosine - damped * sine);
        }

        double place(double place, double speed) {
            return placeOfPlace * place + placeOfSpeed * speed;
        }

        double speed(double place, double speed) {
            return speedOfPlace * place + speedOfSpeed * speed;
        }
    }
}
