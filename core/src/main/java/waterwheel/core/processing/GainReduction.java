package waterwheel.core.processing;

/**
 * What processors that turn down by level share, over blocks. The loops are apart from those over what depends on the
 * frame before, to run several frames at a time.
 */
final class GainReduction {
    private static final float SILENCE = 1e-9f;
    private static final float OCTAVES_DOWN = -1 / Logarithm.DB_PER_OCTAVE;

    private GainReduction() {}

    /** What a one-pole filter keeps of the frame before, for a time constant in seconds. */
    static double pole(double seconds, int rate) {
        return Math.exp(-1 / (seconds * rate));
    }

    /** Levels in dB, from linear ones; silence is -180 dB. */
    static void toDb(float[] levels, float[] db, int frames) {
        for (int i = 0; i < frames; i++) {
            // Adding is cheaper than choosing the larger, and at -80 dBFS amounts to 0.0001 dB.
            db[i] = Logarithm.log2(levels[i] + SILENCE) * Logarithm.DB_PER_OCTAVE;
        }
    }

    /**
     * Makes linear gains of reductions in dB, at most 150, in place.
     *
     * @param makeUp gain where nothing is turned down, linear
     */
    static void toGains(float[] reductions, float makeUp, int frames) {
        for (int i = 0; i < frames; i++) {
            reductions[i] = makeUp * Logarithm.exp2(reductions[i] * OCTAVES_DOWN);
        }
    }

    /** Multiplies all planes by linear gains. */
    static void apply(float[] gains, float[][] signal, int frames) {
        for (float[] plane : signal) {
            for (int i = 0; i < frames; i++) {
                plane[i] *= gains[i];
            }
        }
    }
}
