package waterwheel.desktop.frame;

import waterwheel.core.findings.Finding;

/** The steps of the work that have a view. */
public enum Step {
    INTAKE("Intake", "See what came, mend what can be mended, name and sort it"),
    STAGING("Staging", "Bring every track to a sensible level before its inserts"),
    FLOW("Flow", "See and change what runs where, from the sources to the main bus"),
    OUTBOARD("Outboard", "Send signals through hardware and back: patch, time, level, capture"),
    BLEND("Blend", "Set faders, places and VCAs"),
    RIDES("Rides", "Let faders, knobs and switches move along the song"),
    STEMS("Stems", "Render stems and mix, with the proof that they add up"),
    RUNNING_ORDER("Running order", "Bring many songs to the same loudness, part by part, and deliver them");

    private final String label;
    private final String purpose;

    Step(String label, String purpose) {
        this.label = label;
        this.purpose = purpose;
    }

    public String label() {
        return label;
    }

    public String purpose() {
        return purpose;
    }

    /** The step at which a finding is dealt with. */
    public static Step of(Finding finding) {
        return switch (finding.rule()) {
            case MUTED_TRACK, EMPTY_TRACK -> STEMS;
            case DOUBLE_PATH, WET_DRY_SHIFT, OUTPUT_CLIPS, NO_RESPONSE, PLAYER_GONE -> FLOW;
            case SEND_CLIPS,
                    RETURN_CLIPS,
                    NOTHING_COMES_BACK,
                    PORT_TWICE,
                    RETURN_LISTENED_TO,
                    LISTENING_HOWLS,
                    CAPTURE_OUT_OF_DATE,
                    LOOP_NOT_TIMED,
                    LOOP_INVERTED,
                    UNIT_LEVEL,
                    LOOP_NOISE,
                    LOOP_FRACTION -> OUTBOARD;
            case UNMATCHED_INSERT, FROZEN_OUT_OF_DATE -> BLEND;
            case RIDE_CLICKS, RIDE_AT_END, RIDE_UNHEARD, RIDE_STANDS -> RIDES;
            case MISSING_FILE,
                    NOT_NUMBERS,
                    CHANGED_FILE,
                    FLATTENED_SAMPLES,
                    HARMLESS_OVERS,
                    INVERTED_SIDES,
                    SAME_AUDIO_TWICE,
                    IDENTICAL_SIDES,
                    SILENT_SIDE,
                    DC_OFFSET,
                    UNLIKE_LENGTHS -> INTAKE;
            case MAIN_OVER_FULL_SCALE, BALANCE_LOSES_CONTENT, LITTLE_HEADROOM, RAISED_NOISE, COARSE_FADER -> STAGING;
        };
    }
}
