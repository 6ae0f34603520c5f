package waterwheel.core.metering;

import java.util.function.IntToDoubleFunction;

/**
 * Mean squares of windows over a series, by running sums: what momentary and short-term loudness, gating blocks and
 * noise floor are made of.
 */
final class Windows {
    private Windows() {}

    /**
     * Returns the mean square of every complete window.
     *
     * @param energy sum of squares of a step
     * @param length window length in steps of 10 ms
     * @param hop distance of window starts in steps
     * @return mean squares, linear, in order; empty where the signal is shorter than a window
     */
    static double[] meanSquares(LevelSeries series, IntToDoubleFunction energy, int length, int hop) {
        int steps = Steps.complete(series.frames(), series.sampleRateHz());
        if (steps < length) {
            return new double[0];
        }
        // A running sum's rounding is 1e-16 of all that came before: less than 0.001 dB even for a window 100 dB
        // below a song of hours, and exactly nothing in digital silence.
        double[] sums = new double[steps + 1];
        for (int s = 0; s < steps; s++) {
            sums[s + 1] = sums[s] + energy.applyAsDouble(s);
        }
        double[] out = new double[(steps - length) / hop + 1];
        for (int w = 0; w < out.length; w++) {
            int first = w * hop;
            long frames = Steps.firstFrame(first + length, series.sampleRateHz())
                    - Steps.firstFrame(first, series.sampleRateHz());
            out[w] = (sums[first + length] - sums[first]) / frames;
        }
        return out;
    }
}
