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

    private final List<FilterChain> bands;

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
        bands = List.of(
                new FilterChain(List.of(belowLow, belowLow, turn)),
                new FilterChain(List.of(aboveLow, aboveLow, belowHigh, belowHigh)),
                new FilterChain(List.of(aboveLow, aboveLow, aboveHigh, aboveHigh)));
    }

    /** Filters a copy of the signal to one band of it, in place. */
    void divide(int band, float[][] signal, int frames) {
        bands.get(band).process(signal, frames);
    }

    void reset() {
        bands.forEach(FilterChain::reset);
    }

    void adopt(Crossover other) {
        for (int b = 0; b < BANDS; b++) {
            bands.get(b).adopt(other.bands.get(b));
        }
    }
}
