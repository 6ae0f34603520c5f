package waterwheel.core.songs;

import java.util.List;

/**
 * The levels of a part of a song, or of the sum of its parts, as corrected.
 *
 * @param name of the part; empty for the sum
 * @param stems names of the stems that it is made of; none for the sum
 * @param sections in the song's order of sections
 */
public record PartLevels(String name, boolean cue, List<String> stems, Level whole, List<Level> sections) {
    public PartLevels {
        stems = List.copyOf(stems);
        sections = List.copyOf(sections);
    }
}
