package waterwheel.core.metering;

import java.util.Arrays;
import waterwheel.core.units.Decibels;

/**
 * Loudness of a series after ITU-R BS.1770-5 and EBU Tech 3341, and its range after EBU Tech 3342: the sum of all planes'
 * powers, weighted when they were measured. A mono signal is one channel of weight 1; silence, and a signal shorter than a window, reads negative infinity. Of a series without
 * K-weighted energies everything is NaN.
 */
public final class Loudness {
    /** What BS.1770 adds so that a 997 Hz full-scale sine in one front channel reads -3.01 LUFS. */
    private static final double OFFSET_LU = -0.691;

    private static final int MOMENTARY_STEPS = 40;
    private static final int SHORT_TERM_STEPS = 300;
    private static final int GATE_HOP_STEPS = 10;
    private static final double ABSOLUTE_GATE = ofLufs(-70);

    private Loudness() {}

    /** Integrated loudness in LUFS: gated mean of 400 ms blocks that overlap by 75 %. */
    public static double integratedLufs(LevelSeries series) {
        return integratedLufs(Energies.weighted(series));
    }

    static double integratedLufs(Energies energies) {
        if (!energies.series().hasLoudness()) {
            return Double.NaN;
        }
        double[] blocks = energies.meanSquaresOfAll(MOMENTARY_STEPS, GATE_HOP_STEPS);
        return toLufs(Gating.gatedMean(blocks, ABSOLUTE_GATE, 0.1));
    }

    /** Momentary loudness in LUFS of every 400 ms window, one each 10 ms; reading i ends at (i + 40) 10 ms. */
    public static double[] momentaryLufs(LevelSeries series) {
        return toLufs(Energies.weighted(series).meanSquaresOfAll(MOMENTARY_STEPS, 1));
    }

    /** Short-term loudness in LUFS of every 3 s window, one each 10 ms; reading i ends at (i + 300) 10 ms. */
    public static double[] shortTermLufs(LevelSeries series) {
        return toLufs(Energies.weighted(series).meanSquaresOfAll(SHORT_TERM_STEPS, 1));
    }

    /** Highest momentary loudness in LUFS. */
    public static double momentaryMaxLufs(LevelSeries series) {
        return momentaryMaxLufs(Energies.weighted(series));
    }

    static double momentaryMaxLufs(Energies energies) {
        return mostLufs(energies, MOMENTARY_STEPS);
    }

    /** Highest short-term loudness in LUFS. */
    public static double shortTermMaxLufs(LevelSeries series) {
        return shortTermMaxLufs(Energies.weighted(series));
    }

    static double shortTermMaxLufs(Energies energies) {
        return mostLufs(energies, SHORT_TERM_STEPS);
    }

    /**
     * Loudness range in LU: the distance of the 10th and the 95th percentile of short-term loudness, one each 100 ms,
     * over an absolute gate of -70 LUFS and a relative one of -20 LU. 0 where nothing passes.
     */
    public static double rangeLu(LevelSeries series) {
        return rangeLu(Energies.weighted(series));
    }

    static double rangeLu(Energies energies) {
        if (!energies.series().hasLoudness()) {
            return Double.NaN;
        }
        double[] windows = energies.meanSquaresOfAll(SHORT_TERM_STEPS, GATE_HOP_STEPS);
        double threshold = Math.max(ABSOLUTE_GATE, Gating.meanOfThoseOver(windows, ABSOLUTE_GATE) * 0.01);
        double[] kept =
                Arrays.stream(windows).filter(w -> w > threshold).sorted().toArray();
        if (kept.length == 0) {
            return 0;
        }
        return toLufs(percentile(kept, 0.95)) - toLufs(percentile(kept, 0.10));
    }

    /** The nearest value of a sorted list, as EBU Tech 3342 computes percentiles. */
    static double percentile(double[] sorted, double part) {
        return sorted[(int) Math.round((sorted.length - 1) * part)];
    }

    private static double mostLufs(Energies energies, int length) {
        return energies.series().hasLoudness() ? toLufs(largest(energies.meanSquaresOfAll(length, 1))) : Double.NaN;
    }

    private static double largest(double[] values) {
        double most = 0;
        for (double value : values) {
            most = Math.max(most, value);
        }
        return most;
    }

    private static double[] toLufs(double[] meanSquares) {
        return Arrays.stream(meanSquares).map(Loudness::toLufs).toArray();
    }

    private static double toLufs(double meanSquare) {
        return Decibels.ofPower(meanSquare) + OFFSET_LU;
    }

    private static double ofLufs(double lufs) {
        return Math.pow(10, (lufs - OFFSET_LU) / 10);
    }
}
