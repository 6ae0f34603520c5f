package waterwheel.core.order;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * A song of a running order.
 *
 * @param path its session folder, folder of files, or file; relative to the running order's folder with forward
 *     slashes, or absolute
 * @param title as it is shown
 * @param sections as they were set here; empty for those of its session, if it is one
 * @param corrections by the part's name; parts that stay as they are have none
 */
public record Song(SongId id, String path, String title, List<Stretch> sections, Map<String, Correction> corrections) {
    public Song {
        if (path.isBlank()) {
            throw new IllegalArgumentException("path: blank (expected: a folder or a file)");
        }
        if (title.isBlank()) {
            throw new IllegalArgumentException("title: blank (expected: a title)");
        }
        sections = List.copyOf(sections);
        Map<String, Correction> some = new LinkedHashMap<>(corrections);
        some.values().removeIf(Correction.NONE::equals);
        corrections = Map.copyOf(some);
    }

    /** A song as it is. */
    public Song(SongId id, String path, String title) {
        this(id, path, title, List.of(), Map.of());
    }

    /** What a part is corrected by. */
    public Correction correction(String part) {
        return corrections.getOrDefault(part, Correction.NONE);
    }

    public Song with(String part, Correction correction) {
        Map<String, Correction> changed = new LinkedHashMap<>(corrections);
        changed.put(part, correction);
        return new Song(id, path, title, sections, changed);
    }

    public Song withTitle(String value) {
        return new Song(id, path, value, sections, corrections);
    }

    public Song withPath(String value) {
        return new Song(id, value, title, sections, corrections);
    }

    public Song withSections(List<Stretch> value) {
        return new Song(id, path, title, value, corrections);
    }
}
