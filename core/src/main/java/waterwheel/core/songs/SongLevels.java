package waterwheel.core.songs;

import java.util.List;
import java.util.Optional;

/**
 * What was measured of a song.
 *
 * @param stamp the state of the song that it is true of
 * @param seconds how long it is
 * @param sections their names, in order
 * @param parts in the running order's order, cues among them
 * @param sum of all parts but cues
 * @param notes what its engineer should know, a sentence each
 */
public record SongLevels(
        String stamp,
        double seconds,
        int sampleRateHz,
        List<String> sections,
        List<PartLevels> parts,
        PartLevels sum,
        List<String> notes) {
    public SongLevels {
        sections = List.copyOf(sections);
        parts = List.copyOf(parts);
        notes = List.copyOf(notes);
    }

    public Optional<PartLevels> part(String name) {
        return parts.stream().filter(part -> part.name().equals(name)).findFirst();
    }
}
