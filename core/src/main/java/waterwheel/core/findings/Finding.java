package waterwheel.core.findings;

import java.util.Optional;
import java.util.OptionalDouble;
import waterwheel.core.edit.Edit;
import waterwheel.core.session.ChannelId;

/**
 * Something about a session that its engineer should know.
 *
 * @param rule what kind of finding it is
 * @param channel where
 * @param sentence what, where, and why it matters there
 * @param advice what to do
 * @param atSeconds when in the song, or empty where it holds throughout
 * @param remedy an edit that does what is advised, or empty where only a person can
 */
public record Finding(
        Rule rule, ChannelId channel, String sentence, String advice, OptionalDouble atSeconds, Optional<Edit> remedy) {

    /** How bad it is. */
    public enum Severity {
        /** Audio is damaged, or will be. */
        LOSS("Loss"),
        /** Something will go wrong if it stays. */
        RISK("Risk"),
        /** Worth knowing. */
        NOTE("Note");

        private final String label;

        Severity(String label) {
            this.label = label;
        }

        public String label() {
            return label;
        }
    }

    /** The kinds of findings, each with its severity and the step of the work that it belongs to. */
    public enum Rule {
        MISSING_FILE(Severity.LOSS, "Missing files"),
        NOT_NUMBERS(Severity.LOSS, "Samples that are no numbers"),
        FLATTENED_SAMPLES(Severity.LOSS, "Flattened before they came here"),
        OUTPUT_CLIPS(Severity.LOSS, "Outputs that clip"),
        SEND_CLIPS(Severity.LOSS, "Sent to hardware over full scale"),
        RETURN_CLIPS(Severity.LOSS, "Clipped on the way back from hardware"),
        NOTHING_COMES_BACK(Severity.LOSS, "Hardware that nothing comes back from"),
        MAIN_OVER_FULL_SCALE(Severity.RISK, "Over full scale"),
        CHANGED_FILE(Severity.RISK, "Files that hold other audio than before"),
        INVERTED_SIDES(Severity.RISK, "One side is the other upside down"),
        SAME_AUDIO_TWICE(Severity.RISK, "The same audio twice"),
        BALANCE_LOSES_CONTENT(Severity.RISK, "A balance loses what is on one side only"),
        LITTLE_HEADROOM(Severity.RISK, "Little headroom"),
        RAISED_NOISE(Severity.RISK, "Noise raised by gain"),
        DOUBLE_PATH(Severity.RISK, "Several paths to the main bus"),
        NO_RESPONSE(Severity.RISK, "Convolution without an impulse response"),
        PLAYER_GONE(Severity.RISK, "Outputs of instruments that are gone"),
        PORT_TWICE(Severity.RISK, "Ports used twice"),
        RETURN_LISTENED_TO(Severity.RISK, "Listened to while hardware returns there"),
        LISTENING_HOWLS(Severity.RISK, "Listening that howls"),
        FROZEN_OUT_OF_DATE(Severity.NOTE, "Frozen sound out of date"),
        CAPTURE_OUT_OF_DATE(Severity.RISK, "Captures out of date"),
        LOOP_NOT_TIMED(Severity.RISK, "Loops not timed as they are used"),
        LOOP_INVERTED(Severity.RISK, "Hardware with inverted polarity"),
        UNIT_LEVEL(Severity.RISK, "Units at a level they are not made for"),
        LOOP_NOISE(Severity.RISK, "Noise of hardware"),
        RIDE_CLICKS(Severity.RISK, "Curves that click"),
        RIDE_AT_END(Severity.RISK, "Curves at the end of their range"),
        WET_DRY_SHIFT(Severity.NOTE, "Bus faders that leave effects behind"),
        LOOP_FRACTION(Severity.NOTE, "Hardware beside what it was sent by part of a sample"),
        UNMATCHED_INSERT(Severity.NOTE, "Inserts that change the loudness"),
        HARMLESS_OVERS(Severity.NOTE, "Over full scale in float files, without loss"),
        IDENTICAL_SIDES(Severity.NOTE, "Stereo files whose two sides are the same"),
        SILENT_SIDE(Severity.NOTE, "Stereo files with a silent side"),
        DC_OFFSET(Severity.NOTE, "Files off the zero line"),
        UNLIKE_LENGTHS(Severity.NOTE, "Files of unlike lengths"),
        COARSE_FADER(Severity.NOTE, "Faders where they cannot be set finely"),
        RIDE_UNHEARD(Severity.NOTE, "Curves that nobody hears"),
        RIDE_STANDS(Severity.NOTE, "Curves that stand still"),
        EMPTY_TRACK(Severity.NOTE, "Silent tracks"),
        MUTED_TRACK(Severity.NOTE, "Muted tracks");

        private final Severity severity;
        private final String label;

        Rule(Severity severity, String label) {
            this.severity = severity;
            this.label = label;
        }

        /** What several findings of it have in common, such as {@code Muted tracks}. */
        public String label() {
            return label;
        }

        public Severity severity() {
            return severity;
        }
    }

    public Severity severity() {
        return rule.severity();
    }
}
