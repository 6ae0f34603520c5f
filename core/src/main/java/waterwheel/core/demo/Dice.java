package waterwheel.core.demo;

/** Small random deviations that are the same every time (xorshift, Marsaglia 2003). One thread at a time. */
final class Dice {
    private long state;

    Dice(long seed) {
        state = seed * 0x9E37_79B9_7F4A_7C15L | 1;
    }

    /** The next value, from -1 to +1. */
    double next() {
        state ^= state << 13;
        state ^= state >>> 7;
        state ^= state << 17;
        return (state >> 11) * 0x1p-52;
    }
}
