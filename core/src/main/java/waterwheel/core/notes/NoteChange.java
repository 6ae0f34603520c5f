package waterwheel.core.notes;

import waterwheel.core.units.Ranges;

/**
 * What changes for all notes of a performance from a frame on.
 *
 * @param value of the bend -1 to 1, of the rest 0 to 1; a sustain of a half or more holds notes
 */
public record NoteChange(long frame, Kind kind, double value) {
    /** What of a performance changes. */
    public enum Kind {
        /** By two semitones at most. */
        BEND("bend", 0),
        SUSTAIN("sustain", 0),
        VOLUME("volume", 1),
        PAN("pan", 0.5);

        private final String label;
        private final double usual;

        Kind(String label, double usual) {
            this.label = label;
            this.usual = usual;
        }

        /** The word on screen and in the session file. */
        public String label() {
            return label;
        }

        /** What it is before it changes. */
        public double usual() {
            return usual;
        }
    }

    public NoteChange {
        Ranges.checked("frame", frame, 0);
        value = Ranges.checked("value", value, kind == Kind.BEND ? -1 : 0, 1);
    }
}
