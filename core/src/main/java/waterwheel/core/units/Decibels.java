package waterwheel.core.units;

/** Conversions between decibels and linear amplitude or power. Stateless; any thread. */
public final class Decibels {
    /**
     * What AES17 adds to 10 log10(mean square) so that a full-scale sine reads 0 dBFS RMS: 10 log10(2) = 3.0103 dB.
     */
    public static final double AES17_SINE_DB = 10 * Math.log10(2);

    /** What the exponential function takes for 1 dB of amplitude. */
    private static final double NEPERS = Math.log(10) / 20;

    private Decibels() {}

    /**
     * Returns the amplitude factor for a gain, {@code 10^(db/20)}, within some units of the last place.
     *
     * @param db gain in dB; 0 changes nothing, negative infinity is silence
     * @return linear factor, 0 or more
     * @throws IllegalArgumentException if {@code db} is NaN
     */
    public static double toFactor(double db) {
        if (Double.isNaN(db)) {
            throw new IllegalArgumentException("db: NaN (expected: a number or -Infinity)");
        }
        return Math.exp(NEPERS * db);
    }

    /**
     * Finds the amplitude factors of many gains, {@code 10^(db/20)}: several at a time, which {@link #toFactor} does not,
     * and within 1e-12 of each between -100 and +100 dB.
     *
     * @param db gains in dB
     * @param factors filled in, linear: {@code [0 .. count)}
     */
    public static void toFactors(double[] db, int count, double[] factors) {
        for (int i = 0; i < count; i++) {
            // The series of the exponential function, of a 256th of the exponent; the eighth square is that of all of
            // it.
            double x = db[i] * (NEPERS / 256);
            double power = Math.fma(1.0 / 5040, x, 1.0 / 720);
            power = Math.fma(power, x, 1.0 / 120);
            power = Math.fma(power, x, 1.0 / 24);
            power = Math.fma(power, x, 1.0 / 6);
            power = Math.fma(power, x, 0.5);
            power = Math.fma(power, x, 1);
            power = Math.fma(power, x, 1);
            power *= power;
            power *= power;
            power *= power;
            power *= power;
            power *= power;
            power *= power;
            power *= power;
            factors[i] = power * power;
        }
    }

    /** Returns {@code 20 log10(factor)} in dB for a linear amplitude, 0 or more; negative infinity for 0. */
    public static double ofFactor(double factor) {
        return 20 * Math.log10(factor);
    }

    /** Returns {@code 10 log10(power)} in dB for a mean square, 0 or more; negative infinity for 0. */
    public static double ofPower(double power) {
        return 10 * Math.log10(power);
    }

    /** Returns the RMS level in dBFS after AES17 (a full-scale sine reads 0) for a linear mean square. */
    public static double rmsOfMeanSquare(double meanSquare) {
        return ofPower(meanSquare) + AES17_SINE_DB;
    }
}
