package waterwheel.core.processing;

/**
 * Divides a signal into three bands that add up to an all-pass: fourth-order filters by Linkwitz and Riley (Active
 * Crossover Networks for Noncoincident Drivers, J. Audio Eng. Soc. 24, 1976), each two Butterworth filters in a row. The
 * low band passes the all-pass that the upper crossover is to the others, so that all three stay in phase.
 */
final class Crossover {
    private static final double Q = Math.sqrt(0.5);
    static final int BANDS = 3;

    private final int rate;
    private final FilterChain low = new FilterChain(3);
    /** What the two upper bands have in common. */
    private final FilterChain upper = new FilterChain(2);

    private final FilterChain middle = new FilterChain(2);
    private final FilterChain high = new FilterChain(2);
    private double presentLow = Double.NaN;
    private double presentHigh = Double.NaN;

    /**
     * Makes a crossover.
     *
     * @param lowHz where the low band ends
     * @param highHz where the high band begins; not below the other
     */
    Crossover(double lowHz, double highHz, int rate) {
        this.rate = rate;
        move(lowHz, highHz, 0);
    }

    /** Goes to other frequencies, there after so many frames. */
    void move(double lowHz, double highHz, int frames) {
        if (lowHz != presentLow) {
            for (int f = 0; f < 2; f++) {
                Biquad.lowPass(low.goal(), Biquad.SIZE * f, lowHz, Q, rate);
                Biquad.highPass(upper.goal(), Biquad.SIZE * f, lowHz, Q, rate);
                low.move(f, frames);
                upper.move(f, frames);
            }
            presentLow = lowHz;
        }
        if (highHz != presentHigh) {
            Biquad.allPass(low.goal(), Biquad.SIZE * 2, highHz, Q, rate);
            low.move(2, frames);
            for (int f = 0; f < 2; f++) {
                Biquad.lowPass(middle.goal(), Biquad.SIZE * f, highHz, Q, rate);
                Biquad.highPass(high.goal(), Biquad.SIZE * f, highHz, Q, rate);
                middle.move(f, frames);
                high.move(f, frames);
            }
            presentHigh = highHz;
        }
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
