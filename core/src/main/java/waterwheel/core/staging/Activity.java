package waterwheel.core.staging;

import java.util.ArrayList;
import java.util.List;
import waterwheel.core.metering.Average;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.metering.Steps;
import waterwheel.core.units.Decibels;

/**
 * A stretch in which a signal is active, in frames.
 *
 * @param to the frame after its last one
 */
public record Activity(long from, long to) {
    /** Windows of 50 ms. */
    private static final int WINDOW_STEPS = 5;
    /** So far below its average it is not active, however quiet its floor is. */
    private static final double BELOW_AVERAGE_DB = 20;

    /**
     * When a signal is active: its level in windows of 50 ms lies above the lower of its noise floor plus a distance and
     * its average less 20 dB.
     *
     * @param holdSeconds gaps that are shorter are none
     * @param aboveFloorDb the distance from the noise floor
     */
    public static List<Activity> of(LevelSeries series, double holdSeconds, double aboveFloorDb) {
        double average = Average.dbfs(series);
        if (average == Double.NEGATIVE_INFINITY) {
            return List.of();
        }
        double threshold = Math.min(Average.noiseFloorDbfs(series) + aboveFloorDb, average - BELOW_AVERAGE_DB);
        long hold = Math.round(holdSeconds * series.sampleRateHz());
        List<Activity> found = new ArrayList<>();
        for (int first = 0; first < series.steps(); first += WINDOW_STEPS) {
            int steps = Math.min(WINDOW_STEPS, series.steps() - first);
            long from = Steps.firstFrame(first, series.sampleRateHz());
            long to = Math.min(series.frames(), Steps.firstFrame((long) first + steps, series.sampleRateHz()));
            double loudest = 0;
            for (int p = 0; p < series.planes(); p++) {
                loudest = Math.max(loudest, series.energy(p, first, steps));
            }
            if (Decibels.rmsOfMeanSquare(loudest / Math.max(1, to - from)) <= threshold) {
                continue;
            }
            if (!found.isEmpty() && from - found.getLast().to() < hold) {
                found.set(found.size() - 1, new Activity(found.getLast().from(), to));
            } else {
                found.add(new Activity(from, to));
            }
        }
        return found;
    }
}
