package waterwheel.core.controllers;

/**
 * A fader, knob or button of a controller, as its messages tell it from others.
 *
 * @param device the controller's name
 * @param kind which messages it sends
 * @param channel MIDI channel, 1 to 16
 * @param number the controller's or the note's, 0 to 127; 0 for the bend
 */
public record ControllerPart(String device, Kind kind, int channel, int number) {
    /** Which messages a part sends. */
    public enum Kind {
        /** Control change, of 7 bits, or of 14 where a second message with the fine part follows. */
        CONTROL("control"),
        /** Pitch bend, of 14 bits. */
        BEND("bend"),
        /** Notes: a button that is down while one sounds. */
        NOTE("note");

        private final String label;

        Kind(String label) {
            this.label = label;
        }

        /** The word in the session file. */
        public String label() {
            return label;
        }
    }

    public ControllerPart {
        if (channel < 1 || channel > 16) {
            throw new IllegalArgumentException("channel: " + channel + " (expected: 1 to 16)");
        }
        if (number < 0 || number > 127) {
            throw new IllegalArgumentException("number: " + number + " (expected: 0 to 127)");
        }
    }

    /** The words on screen. */
    public String inWords() {
        String what =
                switch (kind) {
                    case CONTROL -> "control " + number;
                    case BEND -> "bend";
                    case NOTE -> "note " + number;
                };
        return device + ", " + what + (channel == 1 ? "" : ", channel " + channel);
    }
}
