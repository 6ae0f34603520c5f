package waterwheel.core.staging;

import java.util.List;
import waterwheel.core.session.ChannelId;

/**
 * A trim for one channel, or gains for its clips, and what its level after the trim would be.
 *
 * @param presentDb the trim as it is, dB
 * @param proposedDb the trim that is proposed, dB
 * @param clipGainsDb gains that are proposed for the channel's clips, in dB and their order; empty where the trim is moved
 * @param reason what decided it; of several clips the gravest: the range of a gain, the guard, the target
 * @param averageDbfs gated average that would result
 * @param peakDbfs sample peak that would result
 * @param noiseFloorDbfs noise floor that would result
 * @param noisy whether the noise floor would rise above the session's threshold from below it
 */
public record TrimProposal(
        ChannelId channel,
        double presentDb,
        double proposedDb,
        List<Double> clipGainsDb,
        Reason reason,
        double averageDbfs,
        double peakDbfs,
        double noiseFloorDbfs,
        boolean noisy) {

    public TrimProposal {
        clipGainsDb = List.copyOf(clipGainsDb);
    }

    /** What decided a proposed trim. */
    public enum Reason {
        AVERAGE("average to target"),
        PEAK("peak to target"),
        LOUDNESS("loudness to target"),
        GUARD("held by the peak guard"),
        RANGE("at the end of the trim's range"),
        BALANCE("moved with the others");

        private final String words;

        Reason(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }
    }

    /** How far the trim would move, dB. */
    public double changeDb() {
        return proposedDb - presentDb;
    }
}
