package waterwheel.core.instruments;

import waterwheel.core.sources.SourceId;
import waterwheel.core.units.Ranges;

/**
 * A sample and the notes that play it.
 *
 * @param lowKey lowest key, 0 to 127
 * @param highKey highest key
 * @param lowVelocity lowest velocity, 1 to 127
 * @param highVelocity highest velocity
 * @param centreKey the key at which it sounds as recorded
 * @param tuneCents how far it is tuned up, -2,400 to 2,400 cents
 * @param loopStart first frame of the loop
 * @param loopEnd the frame after the loop's last one
 * @param releaseSeconds time to fall by 60 dB once the key is let go, 0 to 60
 * @param volumeDb gain, -144 to +24 dB
 * @param pan from -1 (the right side is silent) to 1
 * @param turn which of several regions that take turns note by note, from 1
 * @param turns how many take turns
 * @param output where it comes out, 1 to 16
 */
public record Region(
        SourceId source,
        int lowKey,
        int highKey,
        int lowVelocity,
        int highVelocity,
        int centreKey,
        double tuneCents,
        Loop loop,
        long loopStart,
        long loopEnd,
        double releaseSeconds,
        double volumeDb,
        double pan,
        int turn,
        int turns,
        int output) {
    /** What becomes of a sample while its key is held. */
    public enum Loop {
        /** It is played to its end. */
        NONE("none"),
        /** It is played to its end whether or not its key is held. */
        ONE_SHOT("one-shot"),
        /** It goes round, also while it dies away. */
        CONTINUOUS("continuous"),
        /** It goes round while its key is held, and is played to its end then. */
        SUSTAIN("sustain");

        private final String label;

        Loop(String label) {
            this.label = label;
        }

        /** The word on screen and in the session file. */
        public String label() {
            return label;
        }
    }

    public Region {
        Ranges.checked("lowKey", lowKey, 0, 127);
        Ranges.checked("highKey", highKey, 0, 127);
        Ranges.checked("lowVelocity", lowVelocity, 0, 127);
        Ranges.checked("highVelocity", highVelocity, 0, 127);
        Ranges.checked("centreKey", centreKey, -24, 151);
        Ranges.checked("tuneCents", tuneCents, -12_800, 12_800);
        Ranges.checked("loopStart", loopStart, 0);
        Ranges.checked("loopEnd", loopEnd, 0);
        Ranges.checked("releaseSeconds", releaseSeconds, 0, 100);
        Ranges.checked("volumeDb", volumeDb, -144, 24);
        Ranges.checked("pan", pan, -1, 1);
        Ranges.checked("turns", turns, 1, 100);
        Ranges.checked("turn", turn, 1, turns);
        Ranges.checked("output", output, 1, Instrument.MOST_OUTPUTS);
    }

    /** A sample for some keys at every velocity, as it was recorded at one of them. */
    public static Region of(SourceId source, int lowKey, int highKey, int centreKey) {
        return new Region(source, lowKey, highKey, 1, 127, centreKey, 0, Loop.NONE, 0, 0, 0.05, 0, 0, 1, 1, 1);
    }

    /** Whether a note plays it when it is its turn. */
    public boolean takes(int key, int velocity) {
        return key >= lowKey && key <= highKey && velocity >= lowVelocity && velocity <= highVelocity;
    }

    public Region withSource(SourceId value) {
        return with(value, loop, loopStart, loopEnd, output);
    }

    public Region withOutput(int value) {
        return with(source, loop, loopStart, loopEnd, value);
    }

    /** Going round from a frame to the one before another. */
    public Region withLoop(Loop value, long start, long end) {
        return with(source, value, start, end, output);
    }

    /** With its loop at so many times the frames, for a sample that was converted to another rate. */
    public Region stretched(double times) {
        return with(source, loop, Math.round(loopStart * times), Math.round(loopEnd * times), output);
    }

    private Region with(SourceId newSource, Loop newLoop, long newLoopStart, long newLoopEnd, int newOutput) {
        return new Region(
                newSource,
                lowKey,
                highKey,
                lowVelocity,
                highVelocity,
                centreKey,
                tuneCents,
                newLoop,
                newLoopStart,
                newLoopEnd,
                releaseSeconds,
                volumeDb,
                pan,
                turn,
                turns,
                newOutput);
    }
}
