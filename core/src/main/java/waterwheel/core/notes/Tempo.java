package waterwheel.core.notes;

import java.util.List;
import java.util.function.Predicate;

/**
 * Where the beats are.
 *
 * @param changes by frame; the first one at frame 0
 */
public record Tempo(List<Change> changes) {
    /**
     * From a frame on beats are so long.
     *
     * @param beat how many beats have passed there
     */
    public record Change(long frame, double beat, double framesPerBeat) {
        public Change {
            if (!(framesPerBeat >= 1) || frame < 0) {
                throw new IllegalArgumentException("tempo: " + framesPerBeat + " frames a beat at " + frame
                        + " (expected: 1 or more, at 0 or later)");
            }
        }
    }

    public Tempo {
        changes = List.copyOf(changes);
        if (changes.isEmpty() || changes.getFirst().frame() != 0) {
            throw new IllegalArgumentException("changes: none at frame 0 (expected: one)");
        }
    }

    /** One tempo throughout. */
    public static Tempo of(double beatsPerMinute, int sampleRateHz) {
        return new Tempo(List.of(new Change(0, 0, 60.0 * sampleRateHz / beatsPerMinute)));
    }

    /** How many beats have passed at a frame. */
    public double beat(long frame) {
        Change at = last(change -> change.frame() <= frame);
        return at.beat() + (frame - at.frame()) / at.framesPerBeat();
    }

    /** The frame at which a number of beats have passed. */
    public long frame(double beat) {
        Change at = last(change -> change.beat() <= beat);
        return Math.round(at.frame() + (beat - at.beat()) * at.framesPerBeat());
    }

    /** The last change that has come; the first one where none has. By halving: it is asked for every note. */
    private Change last(Predicate<Change> come) {
        int low = 1;
        int high = changes.size();
        while (low < high) {
            int middle = (low + high) >>> 1;
            if (come.test(changes.get(middle))) {
                low = middle + 1;
            } else {
                high = middle;
            }
        }
        return changes.get(low - 1);
    }

    /** The nearest place of a grid. */
    public long aligned(long frame, double gridBeats) {
        return Math.max(0, frame(Math.round(beat(frame) / gridBeats) * gridBeats));
    }
}
