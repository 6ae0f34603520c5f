package waterwheel.core.notes;

import waterwheel.core.units.Ranges;

/**
 * One note.
 *
 * @param startFrames on the song's line, 0 or later
 * @param lengthFrames until the key is let go, 1 or more
 * @param key MIDI key number, 0 to 127; 69 is 440 Hz, 60 is middle C
 * @param velocity 1 to 127
 */
public record Note(long startFrames, long lengthFrames, int key, int velocity) {
    public static final int KEYS = 128;

    private static final String[] NAMES = {"C", "C#", "D", "D#", "E", "F", "F#", "G", "G#", "A", "A#", "B"};

    public Note {
        Ranges.checked("startFrames", startFrames, 0);
        Ranges.checked("lengthFrames", lengthFrames, 1);
        Ranges.checked("key", key, 0, KEYS - 1);
        Ranges.checked("velocity", velocity, 1, 127);
    }

    public long endFrames() {
        return startFrames + lengthFrames;
    }

    public Note withStartFrames(long value) {
        return new Note(value, lengthFrames, key, velocity);
    }

    public Note withKey(int value) {
        return new Note(startFrames, lengthFrames, value, velocity);
    }

    public Note withVelocity(int value) {
        return new Note(startFrames, lengthFrames, key, value);
    }

    /** A key's name, such as {@code F#3}; middle C is C4. */
    public static String name(int key) {
        return NAMES[key % 12] + (key / 12 - 1);
    }
}
