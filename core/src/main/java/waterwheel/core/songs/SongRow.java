package waterwheel.core.songs;

import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import waterwheel.core.order.Song;

/**
 * A song of a running order with what is known of it now.
 *
 * @param levels true of the song as it is; null while they are pending or cannot be measured
 * @param problem why it cannot be measured, in a sentence; empty where it can
 */
public record SongRow(Song song, @Nullable SongLevels levels, String problem) {
    static SongRow pending(Song song) {
        return new SongRow(song, null, "");
    }

    public boolean isPending() {
        return levels == null && problem.isEmpty();
    }

    public Optional<SongLevels> known() {
        return Optional.ofNullable(levels);
    }

    /** Everything that is wrong with it or worth knowing of it, a sentence each. */
    public List<String> sentences() {
        return levels == null ? problem.isEmpty() ? List.of() : List.of(problem) : levels.notes();
    }
}
