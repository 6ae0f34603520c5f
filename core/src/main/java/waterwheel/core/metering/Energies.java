package waterwheel.core.metering;

import java.util.function.IntFunction;
import org.jspecify.annotations.Nullable;

/**
 * The running sums of a series as arrays, each made once, for whoever goes through all of them. They may lie in a mapped
 * file, and reading that number by number takes ten times as long until it is compiled, which it is not yet while a
 * session is opened. One thread at a time.
 */
final class Energies {
    private final LevelSeries series;
    private final IntFunction<double[]> read;
    private final double[] @Nullable [] sums;

    private Energies(LevelSeries series, IntFunction<double[]> read) {
        this.series = series;
        this.read = read;
        sums = new double[series.planes()][];
    }

    /** Sums of squares. */
    static Energies plain(LevelSeries series) {
        return new Energies(series, series::energySums);
    }

    /** Sums of squares after K-weighting, of a series that has them. */
    static Energies weighted(LevelSeries series) {
        return new Energies(series, series::weightedSums);
    }

    LevelSeries series() {
        return series;
    }

    private double[] sums(int plane) {
        double[] known = sums[plane];
        if (known == null) {
            known = read.apply(plane);
            sums[plane] = known;
        }
        return known;
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
        double[] running = sums(plane);
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
