package waterwheel.core.notes;

import java.util.List;

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
        Change at = changes.getFirst();
        for (Change change : changes) {
            if (change.frame() <= frame) {
                at = change;
            }
        }
        return at.beat() + (frame - at.frame()) / at.framesPerBeat();
    }

    /** The frame at which a number of beats have passed. */
    public long frame(double beat) {
        Change at = changes.getFirst();
        for (Change change : changes) {
            if (change.beat() <= beat) {
                at = change;
            }
        }
        return Math.round(at.frame() + (beat - at.beat()) * at.framesPerBeat());
    }

    /** The nearest place of a grid. */
    public long aligned(long frame, double gridBeats) {
        return Math.max(0, frame(Math.round(beat(frame) / gridBeats) * gridBeats));
    }
}
