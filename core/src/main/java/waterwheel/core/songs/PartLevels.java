package waterwheel.core.songs;

import java.util.List;

/**
 * The levels of a part of a song, or of the sum of its parts, as corrected.
 *
 * @param name of the part; empty for the sum
 * @param sections in the song's order of sections
 */
public record PartLevels(String name, boolean cue, Level whole, List<Level> sections) {
    public PartLevels {
        sections = List.copyOf(sections);
    }
}
