package waterwheel.core.processing;

/**
 * Makes white noise pink: P. Kellet's filter of three poles, within 0.5 dB of -3 dB an octave from 40 Hz to 20 kHz at
 * 48 kHz. Its poles are the same at every rate, so that those frequencies move with the rate.
 */
final class PinkFilter {
    /** What white noise between -1 and +1, whose mean square is 1/3, has behind it; found by the filter's response. */
    static final double MEAN_SQUARE = 0.184_89;

    private double slow;
    private double middle;
    private double fast;

    double next(double white) {
        slow = 0.99765 * slow + white * 0.0990460 * 0.5;
        middle = 0.96300 * middle + white * 0.2965164 * 0.5;
        fast = 0.57000 * fast + white * 1.0526913 * 0.5;
        return (slow + middle + fast + white * 0.1848 * 0.5) * 0.5;
    }

    void adopt(PinkFilter other) {
        slow = other.slow;
        middle = other.middle;
        fast = other.fast;
    }

    void clear() {
        slow = 0;
        middle = 0;
        fast = 0;
    }
}
