package waterwheel.core.metering;

/** Mean squares of windows over a series: what loudness, average and noise floor are made of. */
final class Windows {
    private Windows() {}

    /** Sum of squares of consecutive steps. */
    interface Energy {
        double of(int firstStep, int count);
    }

    /**
     * Returns the mean square of every complete window.
     *
     * @param length window length in steps of 10 ms
     * @param hop distance of window starts in steps
     * @return mean squares, linear, in order; empty where the signal is shorter than a window
     */
    static double[] meanSquares(LevelSeries series, Energy energy, int length, int hop) {
        int steps = series.completeSteps();
        if (steps < length) {
            return new double[0];
        }
        double[] out = new double[(steps - length) / hop + 1];
        for (int w = 0; w < out.length; w++) {
            int first = w * hop;
            out[w] = energy.of(first, length) / series.framesOf(first, length);
        }
        return out;
    }
}
