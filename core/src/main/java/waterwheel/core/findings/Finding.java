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
        MISSING_FILE(Severity.LOSS),
        NOT_NUMBERS(Severity.LOSS),
        FLATTENED_SAMPLES(Severity.LOSS),
        OUTPUT_CLIPS(Severity.LOSS),
        SEND_CLIPS(Severity.LOSS),
        RETURN_CLIPS(Severity.LOSS),
        NOTHING_COMES_BACK(Severity.LOSS),
        MAIN_OVER_FULL_SCALE(Severity.RISK),
        CHANGED_FILE(Severity.RISK),
        INVERTED_SIDES(Severity.RISK),
        SAME_AUDIO_TWICE(Severity.RISK),
        BALANCE_LOSES_CONTENT(Severity.RISK),
        LITTLE_HEADROOM(Severity.RISK),
        RAISED_NOISE(Severity.RISK),
        DOUBLE_PATH(Severity.RISK),
        NO_RESPONSE(Severity.RISK),
        PORT_TWICE(Severity.RISK),
        RETURN_LISTENED_TO(Severity.RISK),
        LISTENING_HOWLS(Severity.RISK),
        FROZEN_OUT_OF_DATE(Severity.NOTE),
        CAPTURE_OUT_OF_DATE(Severity.RISK),
        LOOP_NOT_TIMED(Severity.RISK),
        LOOP_INVERTED(Severity.RISK),
        UNIT_LEVEL(Severity.RISK),
        LOOP_NOISE(Severity.RISK),
        RIDE_CLICKS(Severity.RISK),
        RIDE_AT_END(Severity.RISK),
        WET_DRY_SHIFT(Severity.NOTE),
        LOOP_FRACTION(Severity.NOTE),
        UNMATCHED_INSERT(Severity.NOTE),
        HARMLESS_OVERS(Severity.NOTE),
        IDENTICAL_SIDES(Severity.NOTE),
        SILENT_SIDE(Severity.NOTE),
        DC_OFFSET(Severity.NOTE),
        UNLIKE_LENGTHS(Severity.NOTE),
        COARSE_FADER(Severity.NOTE),
        RIDE_UNHEARD(Severity.NOTE),
        RIDE_STANDS(Severity.NOTE),
        EMPTY_TRACK(Severity.NOTE),
        MUTED_TRACK(Severity.NOTE);

        private final Severity severity;

        Rule(Severity severity) {
            this.severity = severity;
        }

        public Severity severity() {
            return severity;
        }
    }

    public Severity severity() {
        return rule.severity();
    }
}
