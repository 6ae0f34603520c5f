package waterwheel.core.instruments;

import java.nio.file.Path;
import java.util.List;

/**
 * Which file is played by which notes, as a map or a folder says it.
 *
 * @param name of the instrument
 * @param told what was passed over, a sentence each
 */
public record SampleMap(String name, List<Entry> entries, List<String> told) {
    public static final int MOST = 4_096;

    /**
     * A file and the notes that play it.
     *
     * @param region of a source that has no name yet
     */
    public record Entry(Path file, Region region) {}

    public SampleMap {
        entries = List.copyOf(entries);
        told = List.copyOf(told);
    }
}
