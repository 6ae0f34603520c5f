package waterwheel.core.metering;

import java.util.function.IntFunction;
import java.util.stream.IntStream;

/**
 * The running sums of a series as arrays, for whoever goes through all of them. They may lie in a mapped file, and reading
 * that number by number takes ten times as long until it is compiled, which it is not yet while a session is opened.
 */
final class Energies {
    private final LevelSeries series;
    private final double[][] sums;

    private Energies(LevelSeries series, double[][] sums) {
        this.series = series;
        this.sums = sums;
    }

    /** Sums of squares. */
    static Energies plain(LevelSeries series) {
        return of(series, series::energySums);
    }

    /** Sums of squares after K-weighting. */
    static Energies weighted(LevelSeries series) {
        return of(series, series::weightedSums);
    }

    private static Energies of(LevelSeries series, IntFunction<double[]> sums) {
        return new Energies(
                series, IntStream.range(0, series.planes()).mapToObj(sums).toArray(double[][]::new));
    }

    /**
     * Returns the mean square of every complete window of one plane.
     *
     * @param length window length in steps of 10 ms
     * @param hop distance of window starts in steps
     * @return mean squares, linear, in order; empty where the signal is shorter than a window
     */
    double[] meanSquares(int plane, int length, int hop) {
        double[] windows = windows(length, hop);
        add(plane, length, hop, windows);
        divide(length, hop, windows);
        return windows;
    }

    /** Returns the sum of all planes' mean squares of every complete window. */
    double[] meanSquaresOfAll(int length, int hop) {
        double[] windows = windows(length, hop);
        for (int plane = 0; plane < sums.length; plane++) {
            add(plane, length, hop, windows);
        }
        divide(length, hop, windows);
        return windows;
    }

    private double[] windows(int length, int hop) {
        int steps = series.completeSteps();
        return new double[steps < length ? 0 : (steps - length) / hop + 1];
    }

    private void add(int plane, int length, int hop, double[] windows) {
        double[] running = sums[plane];
        double gain = series.gain(plane);
        for (int w = 0; w < windows.length; w++) {
            windows[w] += (running[w * hop + length] - running[w * hop]) * gain * gain;
        }
    }

    private void divide(int length, int hop, double[] windows) {
        for (int w = 0; w < windows.length; w++) {
            windows[w] /= series.framesOf(w * hop, length);
        }
    }
}
