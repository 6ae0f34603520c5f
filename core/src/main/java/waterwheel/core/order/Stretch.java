package waterwheel.core.order;

import waterwheel.core.units.Ranges;
import waterwheel.core.units.SongLength;

/**
 * A named section of a song, in seconds, since a song's rate is only known from its files.
 *
 * @param startSeconds 0 or later
 * @param endSeconds after its start
 */
public record Stretch(String name, double startSeconds, double endSeconds) {
    public Stretch {
        if (name.isBlank()) {
            throw new IllegalArgumentException("name: blank (expected: a name)");
        }
        startSeconds = Ranges.checked("startSeconds", startSeconds, 0, SongLength.MOST_SECONDS);
        endSeconds = Ranges.checked("endSeconds", endSeconds, 0, SongLength.MOST_SECONDS);
        if (endSeconds <= startSeconds) {
            throw new IllegalArgumentException("endSeconds: " + endSeconds + " (expected: after " + startSeconds + ")");
        }
    }
}
