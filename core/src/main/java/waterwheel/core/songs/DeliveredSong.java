package waterwheel.core.songs;

import java.util.List;
import java.util.Map;
import waterwheel.core.order.SongId;

/**
 * A song that was delivered, or was not.
 *
 * @param folder its own, relative to the delivery's
 * @param parts as read back from the files; none where it was not delivered
 * @param checksums SHA-256 by file, relative to its folder
 * @param holds whether all files are as long as each other, whole, and add up
 * @param proof that in words, or why it was not delivered
 * @param upToDate whether everything lay there already
 */
public record DeliveredSong(
        SongId id,
        String title,
        String folder,
        List<DeliveredPart> parts,
        Map<String, String> checksums,
        boolean holds,
        String proof,
        boolean upToDate) {
    public DeliveredSong {
        parts = List.copyOf(parts);
        checksums = Map.copyOf(checksums);
    }

    /** Whether there are files of it. */
    public boolean delivered() {
        return !checksums.isEmpty();
    }
}
