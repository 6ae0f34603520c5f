package waterwheel.core.rack;

import java.util.OptionalInt;
import waterwheel.core.units.Ranges;

/**
 * How one records.
 *
 * @param averageDbfs about where the average of what comes in should lie, -40 to -10 dBFS
 * @param peakFromDbfs its peaks should reach that, -40 to 0 dBFS
 * @param peakToDbfs and not go beyond that, not below {@code peakFromDbfs}, at most 0 dBFS
 * @param roundTripFrames how many frames later something comes in by a cable than it went out, as it was measured; empty
 *     for what the interface itself tells
 */
public record RecordingSettings(
        double averageDbfs, double peakFromDbfs, double peakToDbfs, OptionalInt roundTripFrames) {
    /** An average of about -20 dBFS, peaks between -10 and -8 dBFS. */
    public static final RecordingSettings DEFAULT = new RecordingSettings(-20, -10, -8, OptionalInt.empty());
    /** An average within so much of what is wanted is right. */
    public static final double TOLERANCE_DB = 4;
    /** Less than this is no signal. */
    private static final double SILENT_DBFS = -60;

    public RecordingSettings {
        averageDbfs = Ranges.checked("averageDbfs", averageDbfs, -40, -10);
        peakFromDbfs = Ranges.checked("peakFromDbfs", peakFromDbfs, -40, 0);
        peakToDbfs = Ranges.checked("peakToDbfs", peakToDbfs, peakFromDbfs, 0);
        roundTripFrames.ifPresent(frames -> Ranges.checked("roundTripFrames", frames, 0, LoopTiming.MOST_FRAMES));
    }

    /** How what comes in lies to what is wanted, in a few words. */
    public String judged(double averageDbfsNow, double peakDbfs) {
        if (peakDbfs > peakToDbfs) {
            return peakDbfs >= -0.1 ? "clips" : "too hot";
        }
        if (peakDbfs < SILENT_DBFS) {
            return "no signal";
        }
        if (peakDbfs >= peakFromDbfs || Math.abs(averageDbfsNow - averageDbfs) <= TOLERANCE_DB) {
            return "in the zone";
        }
        return "weak";
    }

    public RecordingSettings withZone(double average, double peakFrom, double peakTo) {
        return new RecordingSettings(average, peakFrom, peakTo, roundTripFrames);
    }
}
