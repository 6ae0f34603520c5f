package waterwheel.core.staging;

import waterwheel.core.session.ChannelId;

/**
 * A trim for one channel, and what its level would be after it.
 *
 * @param presentDb the trim as it is, dB
 * @param proposedDb the trim that is proposed, dB
 * @param reason what decided it
 * @param averageDbfs gated average that would result
 * @param peakDbfs sample peak that would result
 * @param noiseFloorDbfs noise floor that would result
 * @param noisy whether the noise floor would rise above the session's threshold from below it
 */
public record TrimProposal(
        ChannelId channel,
        double presentDb,
        double proposedDb,
        Reason reason,
        double averageDbfs,
        double peakDbfs,
        double noiseFloorDbfs,
        boolean noisy) {

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

    /** How far the level would move, dB. */
    public double changeDb() {
        return proposedDb - presentDb;
    }
}
