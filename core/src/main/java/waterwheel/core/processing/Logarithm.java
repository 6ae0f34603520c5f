package waterwheel.core.processing;

/**
 * Logarithm and exponential of base 2 by polynomials, for loops over blocks: within 0.001 dB of the exact ones, which a
 * test shows, and several times faster.
 */
final class Logarithm {
    /** Decibels in one doubling. */
    static final float DB_PER_OCTAVE = (float) (20 * Math.log10(2));

    private static final int MANTISSA_BITS = 23;
    private static final int MANTISSA_MASK = (1 << MANTISSA_BITS) - 1;
    private static final int ONE = 127 << MANTISSA_BITS;

    private static final float LN2 = (float) Math.log(2);
    /** Twice the octaves in one power of e. */
    static final float TWO_OVER_LN2 = (float) (2 / Math.log(2));

    private Logarithm() {}

    /** log2 of a normal number above 0. */
    static float log2(float value) {
        int bits = Float.floatToRawIntBits(value);
        int exponent = (bits >> MANTISSA_BITS) - 127;
        float m = Float.intBitsToFloat((bits & MANTISSA_MASK) | ONE);
        // With s = (m - 1) / (m + 1): ln m = 2 (s + s³/3 + s⁵/5 + s⁷/7 + ...); s is at most 1/3.
        float s = (m - 1) / (m + 1);
        float q = s * s;
        float series = 1 + q * ((float) (1 / 3.0) + q * (0.2f + q * ((float) (1 / 7.0) + q * (float) (1 / 9.0))));
        return exponent + TWO_OVER_LN2 * s * series;
    }

    /** 2 to a power between -126 and 126. */
    static float exp2(float power) {
        float clamped = Math.max(-126, Math.min(126, power));
        int whole = (int) clamped - (clamped < 0 ? 1 : 0);
        float x = (clamped - whole) * LN2;
        // e^x by its series; x is at most ln 2.
        float series = 1 / 720f;
        series = 1 / 120f + x * series;
        series = 1 / 24f + x * series;
        series = 1 / 6f + x * series;
        series = 0.5f + x * series;
        series = 1 + x * series;
        series = 1 + x * series;
        return series * Float.intBitsToFloat((whole + 127) << MANTISSA_BITS);
    }
}
