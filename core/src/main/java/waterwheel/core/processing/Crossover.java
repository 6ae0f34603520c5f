package waterwheel.core.processing;

import java.util.List;

/**
 * Divides a signal into three bands that add up to an all-pass: fourth-order filters by Linkwitz and Riley (Active
 * Crossover Networks for Noncoincident Drivers, J. Audio Eng. Soc. 24, 1976), each two Butterworth filters in a row. The
 * low band passes the all-pass that the upper crossover is to the others, so that all three stay in phase.
 */
final class Crossover {
    private static final double Q = Math.sqrt(0.5);
    static final int BANDS = 3;

    private final FilterChain low;
    /** What the two upper bands have in common. */
    private final FilterChain upper;

    private final FilterChain middle;
    private final FilterChain high;

    /**
     * Makes a crossover.
     *
     * @param lowHz where the low band ends
     * @param highHz where the high band begins; not below the other
     */
    Crossover(double lowHz, double highHz, int rate) {
        Biquad belowLow = Biquad.lowPass(lowHz, Q, rate);
        Biquad aboveLow = Biquad.highPass(lowHz, Q, rate);
        Biquad belowHigh = Biquad.lowPass(highHz, Q, rate);
        Biquad aboveHigh = Biquad.highPass(highHz, Q, rate);
        Biquad turn = Biquad.allPass(highHz, Q, rate);
        low = new FilterChain(List.of(belowLow, belowLow, turn));
        upper = new FilterChain(List.of(aboveLow, aboveLow));
        middle = new FilterChain(List.of(belowHigh, belowHigh));
        high = new FilterChain(List.of(aboveHigh, aboveHigh));
    }

    /**
     * Divides a signal.
     *
     * @param bands written: {@code bands[band][plane][0 .. frames)}, from low to high
     */
    void divide(float[][] signal, float[][][] bands, int frames) {
        copy(signal, bands[0], frames);
        low.process(bands[0], frames);
        copy(signal, bands[1], frames);
        upper.process(bands[1], frames);
        copy(bands[1], bands[2], frames);
        middle.process(bands[1], frames);
        high.process(bands[2], frames);
    }

    private static void copy(float[][] from, float[][] to, int frames) {
        for (int p = 0; p < to.length; p++) {
            System.arraycopy(from[p], 0, to[p], 0, frames);
        }
    }

    void reset() {
        low.reset();
        upper.reset();
        middle.reset();
        high.reset();
    }

    void adopt(Crossover other) {
        low.adopt(other.low);
        upper.adopt(other.upper);
        middle.adopt(other.middle);
        high.adopt(other.high);
    }
}
