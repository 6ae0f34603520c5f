package waterwheel.core.notes;

import java.util.Comparator;
import java.util.List;

/**
 * A performance: notes in the order of their starts, what changes meanwhile, and the beats that they were played to.
 *
 * @param notes by start, then by key
 * @param changes by frame
 */
public record Notes(List<Note> notes, List<NoteChange> changes, Tempo tempo) {
    public static final int MOST = 200_000;

    private static final Comparator<Note> ORDER =
            Comparator.comparingLong(Note::startFrames).thenComparingInt(Note::key);

    public Notes {
        if (notes.size() > MOST) {
            throw new IllegalArgumentException("notes: " + notes.size() + " (expected: at most " + MOST + ")");
        }
        notes = notes.stream().sorted(ORDER).toList();
        changes = changes.stream()
                .sorted(Comparator.comparingLong(NoteChange::frame))
                .toList();
    }

    /** No notes yet, to beats of half a second. */
    public static Notes none(int sampleRateHz) {
        return new Notes(List.of(), List.of(), Tempo.of(120, sampleRateHz));
    }

    /** The end of the last note; 0 for none. */
    public long endFrames() {
        return notes.stream().mapToLong(Note::endFrames).max().orElse(0);
    }

    public Notes withNotes(List<Note> value) {
        return new Notes(value, changes, tempo);
    }
}
