package waterwheel.core.demo;

/**
 * One note.
 *
 * @param start in quavers from the song's start
 * @param length in quavers
 * @param key MIDI key number; 69 is 440 Hz
 * @param force 0 to 1
 */
record Note(double start, double length, int key, double force) {
    double hertz() {
        return 440 * StrictMath.pow(2, (key - 69) / 12.0);
    }

    Note transposed(int semitones) {
        return new Note(start, length, key + semitones, force);
    }
}
