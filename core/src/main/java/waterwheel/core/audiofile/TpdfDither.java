package waterwheel.core.audiofile;

/**
 * Triangular-probability dither between -1 and +1 LSB: the difference of two uniform values (Lipshitz, Wannamaker,
 * Vanderkooy, Quantization and dither: a theoretical survey, J. Audio Eng. Soc. 40, 1992). The uniform values are the
 * upper bits of a 64-bit linear congruential generator (Knuth, MMIX). One thread at a time.
 */
final class TpdfDither {
    private long state;

    /** @param stream generators of different streams are unlike each other; the same stream always starts the same */
    TpdfDither(long stream) {
        state = 0x9E37_79B9_7F4A_7C15L * (stream + 1);
    }

    /** The next value in LSB, from -1 to +1. */
    double next() {
        state = state * 6_364_136_223_846_793_005L + 1_442_695_040_888_963_407L;
        return ((state >>> 48) - (state >>> 32 & 0xFFFF)) * 0x1p-16;
    }
}
