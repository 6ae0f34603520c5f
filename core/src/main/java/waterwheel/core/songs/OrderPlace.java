package waterwheel.core.songs;

import java.nio.file.Path;
import waterwheel.core.order.Song;
import waterwheel.core.order.SongId;
import waterwheel.core.store.OrderFile;

/**
 * Where a running order and its songs lie.
 *
 * @param file the running order's
 */
public record OrderPlace(Path file) {
    /** The folder that relative paths start from. */
    public Path folder() {
        return OrderFile.folder(file);
    }

    /** Where a song lies. */
    public Path of(Song song) {
        return OrderFile.path(file, song);
    }

    /** Where figures are kept. */
    Path figures() {
        return OrderFile.working(file).resolve("figures");
    }

    /** Where the parts of a song that is a session are rendered to. */
    Path parts(SongId song) {
        return OrderFile.working(file).resolve("parts").resolve(song.value());
    }

    /** Where files lie that had to be converted. */
    Path converted() {
        return OrderFile.working(file).resolve("converted");
    }
}
