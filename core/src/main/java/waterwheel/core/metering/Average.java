package waterwheel.core.metering;

import java.util.Arrays;
import waterwheel.core.units.Decibels;

/**
 * The average level for staging, and what goes with it: RMS in the AES17 convention (a full-scale sine reads 0 dBFS),
 * gated like BS.1770 but without K-weighting and per side, so that rests do not count. Stereo: the louder side's.
 */
public final class Average {
    private static final int BLOCK_STEPS = 40;
    private static final int BLOCK_HOP_STEPS = 10;
    private static final int RANGE_STEPS = 300;
    private static final int NOISE_STEPS = 5;
    private static final double ABSOLUTE_GATE = Math.pow(10, (-70 - Decibels.AES17_SINE_DB) / 10);

    private Average() {}

    /** Gated average in dBFS; for a signal shorter than one block of 400 ms its plain RMS. */
    public static double dbfs(LevelSeries series) {
        return dbfs(Energies.plain(series));
    }

    static double dbfs(Energies energies) {
        LevelSeries series = energies.series();
        double loudest = 0;
        for (int plane = 0; plane < series.planes(); plane++) {
            double[] blocks = energies.meanSquares(plane, BLOCK_STEPS, BLOCK_HOP_STEPS);
            double mean = blocks.length == 0 ? meanSquare(series, plane) : Gating.gatedMean(blocks, ABSOLUTE_GATE, 0.1);
            loudest = Math.max(loudest, mean);
        }
        return Decibels.rmsOfMeanSquare(loudest);
    }

    /** Plain RMS over everything in dBFS, the louder side's. */
    public static double rmsDbfs(LevelSeries series) {
        double loudest = 0;
        for (int plane = 0; plane < series.planes(); plane++) {
            loudest = Math.max(loudest, meanSquare(series, plane));
        }
        return Decibels.rmsOfMeanSquare(loudest);
    }

    /**
     * The range in which the level moves: 10th and 95th percentile in dBFS of the RMS of 3 s windows that lie above
     * -70 dBFS and within 20 dB of their mean; the louder side's. Both negative infinity where nothing passes.
     */
    static double[] shortTermRangeDbfs(Energies energies) {
        LevelSeries series = energies.series();
        double[] best = {Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY};
        for (int plane = 0; plane < series.planes(); plane++) {
            double[] windows = energies.meanSquares(plane, RANGE_STEPS, BLOCK_HOP_STEPS);
            double gate = Math.max(ABSOLUTE_GATE, Gating.meanOfThoseOver(windows, ABSOLUTE_GATE) * 0.01);
            double[] kept =
                    Arrays.stream(windows).filter(w -> w > gate).sorted().toArray();
            if (kept.length > 0) {
                double high = Decibels.rmsOfMeanSquare(Loudness.percentile(kept, 0.95));
                if (high > best[1]) {
                    best = new double[] {Decibels.rmsOfMeanSquare(Loudness.percentile(kept, 0.10)), high};
                }
            }
        }
        return best;
    }

    /**
     * Noise floor in dBFS: the 10th percentile of the RMS of 50 ms windows that are not digital silence; each window
     * counts with its louder side. Negative infinity where there is none.
     */
    public static double noiseFloorDbfs(LevelSeries series) {
        return noiseFloorDbfs(Energies.plain(series));
    }

    static double noiseFloorDbfs(Energies energies) {
        LevelSeries series = energies.series();
        double[] loudest = energies.meanSquares(0, NOISE_STEPS, NOISE_STEPS);
        for (int p = 1; p < series.planes(); p++) {
            double[] right = energies.meanSquares(p, NOISE_STEPS, NOISE_STEPS);
            for (int i = 0; i < loudest.length; i++) {
                loudest[i] = Math.max(loudest[i], right[i]);
            }
        }
        double[] sounding = Arrays.stream(loudest).filter(w -> w > 0).sorted().toArray();
        return sounding.length == 0
                ? Double.NEGATIVE_INFINITY
                : Decibels.rmsOfMeanSquare(Loudness.percentile(sounding, 0.10));
    }

    /** Correlation of left and right from -1 to +1; NaN for mono and where a side is silent. */
    public static double correlation(LevelSeries series) {
        if (series.planes() != 2) {
            return Double.NaN;
        }
        double sides = Math.sqrt(energy(series, 0)) * Math.sqrt(energy(series, 1));
        return sides == 0 ? Double.NaN : Math.clamp(series.crossEnergy() / sides, -1, 1);
    }

    private static double meanSquare(LevelSeries series, int plane) {
        return series.frames() == 0 ? 0 : energy(series, plane) / series.frames();
    }

    private static double energy(LevelSeries series, int plane) {
        return series.energy(plane, 0, series.steps());
    }

    /**
     * Returns the level of the mono sum (L + R) / 2 against the mean power of both sides, in dB: 0 where the sides are
     * alike, -3.01 where they have nothing in common, negative infinity where one is the other inverted; NaN for mono and
     * silence.
     */
    public static double monoChangeDb(LevelSeries series) {
        if (series.planes() != 2) {
            return Double.NaN;
        }
        double energy = series.energy(0, 0, series.steps()) + series.energy(1, 0, series.steps());
        return energy == 0 ? Double.NaN : 10 * Math.log10(Math.max(0, 0.5 + series.crossEnergy() / energy));
    }
}
