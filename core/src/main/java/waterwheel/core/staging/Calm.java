package waterwheel.core.staging;

import java.util.ArrayList;
import java.util.List;
import waterwheel.core.metering.Average;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.metering.Steps;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.CurveThinning;
import waterwheel.core.session.Clip;
import waterwheel.core.units.Decibels;

/**
 * Calms a clip before its inserts: proposes a gain curve that brings phrases which lie further than a range from the
 * clip's own average nearer to it, as a hand on the clip gain would. What lies within the range stays as it is; rests
 * are never raised.
 *
 * @param rangeDb how far from the average a phrase may lie, 0 to 24 dB
 * @param amount which part of the excess is taken back, 0 to 1; 1 brings it to the end of the range
 * @param smoothingSeconds over which time the level is taken and the curve moves, 0.1 to 10 s
 */
public record Calm(double rangeDb, double amount, double smoothingSeconds) {
    public static final Calm DEFAULT = new Calm(3, 0.7, 1);

    /** The most that the curve raises or lowers. */
    public static final double MOST_DB = 12;

    private static final int HOP_STEPS = 5;
    private static final double REST_DB = 20;
    private static final double SILENCE_DBFS = -70;
    private static final double THINNED_DB = 0.1;

    public Calm {
        checked("rangeDb", rangeDb, 0, 24);
        checked("amount", amount, 0, 1);
        checked("smoothingSeconds", smoothingSeconds, 0.1, 10);
    }

    private static void checked(String name, double value, double lowest, double highest) {
        if (!(value >= lowest && value <= highest)) {
            throw new IllegalArgumentException(name + ": " + value + " (expected: " + lowest + " to " + highest + ")");
        }
    }

    /**
     * Proposes a curve for a clip.
     *
     * @param series levels of the clip's stretch of its file from its first frame on, without gain, fades and curve
     * @return frames from the clip's start; {@link Curve#NONE} where nothing lies beyond the range
     */
    public Curve curve(LevelSeries series, Clip clip) {
        double average = Average.dbfs(series);
        if (average == Double.NEGATIVE_INFINITY) {
            return Curve.NONE;
        }
        int window = Math.max(1, (int) Math.round(smoothingSeconds * Steps.PER_SECOND));
        double[] gains = smoothed(fillRests(wanted(levels(series, window), average)), window / HOP_STEPS);
        List<CurvePoint> points = new ArrayList<>();
        for (int i = 0; i < gains.length; i++) {
            long frame = Steps.firstFrame((long) i * HOP_STEPS, series.sampleRateHz());
            if (frame < clip.lengthFrames()) {
                points.add(new CurvePoint(frame, Math.rint(gains[i] * 100) / 100, CurvePoint.Shape.LINE));
            }
        }
        List<CurvePoint> thinned = CurveThinning.thinned(points, THINNED_DB);
        boolean idle = thinned.stream().allMatch(p -> Math.abs(p.value()) <= THINNED_DB);
        return idle ? Curve.NONE : new Curve(thinned);
    }

    /** RMS in dBFS, the louder side's, of windows around every hop. */
    private static double[] levels(LevelSeries series, int window) {
        int steps = series.steps();
        double[] levels = new double[(steps + HOP_STEPS - 1) / HOP_STEPS];
        for (int i = 0; i < levels.length; i++) {
            int first = Math.max(0, i * HOP_STEPS - window / 2);
            int end = Math.min(steps, i * HOP_STEPS + (window + 1) / 2);
            long frames = Math.min(series.frames(), Steps.firstFrame(end, series.sampleRateHz()))
                    - Steps.firstFrame(first, series.sampleRateHz());
            double loudest = 0;
            for (int p = 0; p < series.planes(); p++) {
                loudest = Math.max(loudest, series.energy(p, first, end - first));
            }
            levels[i] = Decibels.rmsOfMeanSquare(loudest / Math.max(1, frames));
        }
        return levels;
    }

    /** The gain that each hop asks for by itself; NaN for a rest. */
    private double[] wanted(double[] levels, double average) {
        double[] gains = new double[levels.length];
        for (int i = 0; i < levels.length; i++) {
            double distance = levels[i] - average;
            double excess = Math.max(0, Math.abs(distance) - rangeDb) * amount;
            boolean rest = levels[i] < Math.max(SILENCE_DBFS, average - REST_DB);
            gains[i] = rest ? Double.NaN : Math.clamp(-Math.signum(distance) * excess, -MOST_DB, MOST_DB);
        }
        return gains;
    }

    /** Rests follow the phrases around them downwards, never upwards: a gain there raises only noise. */
    private static double[] fillRests(double[] gains) {
        double[] out = gains.clone();
        int before = -1;
        for (int i = 0; i <= out.length; i++) {
            if (i < out.length && Double.isNaN(gains[i])) {
                continue;
            }
            for (int r = before + 1; r < i; r++) {
                double left = before < 0 ? (i < out.length ? gains[i] : 0) : gains[before];
                double right = i < out.length ? gains[i] : left;
                out[r] = Math.min(0, left + (right - left) * (r - before) / (i - before));
            }
            before = i;
        }
        return out;
    }

    /** Moving average over a window around each value; shorter at the ends. */
    private static double[] smoothed(double[] values, int window) {
        double[] sums = new double[values.length + 1];
        for (int i = 0; i < values.length; i++) {
            sums[i + 1] = sums[i] + values[i];
        }
        double[] out = new double[values.length];
        for (int i = 0; i < values.length; i++) {
            int first = Math.max(0, i - window / 2);
            int end = Math.min(values.length, i + window / 2 + 1);
            out[i] = (sums[end] - sums[first]) / (end - first);
        }
        return out;
    }
}
