package waterwheel.core.instruments;

import waterwheel.core.notes.Notes;

/**
 * What comes out of one of an instrument's outputs while it plays notes.
 *
 * @param output from 1
 */
public record Performance(Instrument instrument, Notes notes, int output) {
    /** Whether anything comes out. */
    public boolean sounds() {
        return !notes.notes().isEmpty() && instrument.outputs().contains(output);
    }
}
