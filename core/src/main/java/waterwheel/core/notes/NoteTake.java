package waterwheel.core.notes;

import java.util.ArrayList;
import java.util.List;

/** Notes as they are played by hand: each begins when its key is pressed and ends when that is let go. Any thread. */
public final class NoteTake {
    private final List<Note> done = new ArrayList<>();
    private final List<NoteChange> changes = new ArrayList<>();
    /** By key since when it is held. */
    private final long[] starts = new long[Note.KEYS];

    /** By key how hard it was pressed; 0 where it is not. */
    private final int[] velocities = new int[Note.KEYS];

    /** A key is pressed, at a frame of the song's line. */
    public synchronized void press(long frame, int key, int velocity) {
        letGo(frame, key);
        starts[key] = Math.max(0, frame);
        velocities[key] = velocity;
    }

    /** A key is let go; one that is not held changes nothing. */
    public synchronized void letGo(long frame, int key) {
        if (velocities[key] > 0) {
            done.add(new Note(starts[key], Math.max(1, frame - starts[key]), key, velocities[key]));
            velocities[key] = 0;
        }
    }

    /** Something else changes. */
    public synchronized void change(long frame, NoteChange.Kind kind, double value) {
        changes.add(new NoteChange(Math.max(0, frame), kind, value));
    }

    /** What was played up to a frame; a key that is still held ends there. */
    public synchronized List<Note> notes(long frame) {
        for (int key = 0; key < Note.KEYS; key++) {
            letGo(frame, key);
        }
        return List.copyOf(done);
    }

    /** What changed meanwhile. */
    public synchronized List<NoteChange> changes() {
        return List.copyOf(changes);
    }
}
