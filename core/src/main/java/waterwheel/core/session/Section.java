package waterwheel.core.session;

import waterwheel.core.units.Ranges;

/**
 * A named part of the song.
 *
 * @param startFrames its first frame
 * @param endFrames the frame after its last one
 */
public record Section(String name, long startFrames, long endFrames) {
    public Section {
        if (name.isBlank()) {
            throw new IllegalArgumentException("name: blank (expected: a name)");
        }
        startFrames = Ranges.checked("startFrames", startFrames, 0);
        endFrames = Ranges.checked("endFrames", endFrames, startFrames + 1);
    }
}
