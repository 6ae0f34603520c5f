package waterwheel.core.songs;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Objects;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.order.RunningOrder;
import waterwheel.core.store.OrderFile;
import waterwheel.core.store.SessionFolder;
import waterwheel.core.units.FileStem;
import waterwheel.core.units.PlainName;

/** Takes songs into a running order under the titles that their files say. */
public final class SongTitles {
    private SongTitles() {}

    /**
     * Returns the running order with songs added at its end.
     *
     * @param songs sessions, folders of files, files
     * @throws SessionFileException if one of them is not there; none is added then
     */
    public static RunningOrder added(RunningOrder order, OrderPlace place, List<Path> songs)
            throws SessionFileException {
        RunningOrder more = order;
        for (Path song : songs) {
            if (!Files.exists(song)) {
                throw new SessionFileException(song + " is not there.", "Name a folder or an audio file.");
            }
            String title = title(song);
            more = withParts(more, song).withSong(OrderFile.written(place.file(), song), title);
        }
        return more;
    }

    /** Parts that are new are noted, so that they have their place in every delivery. */
    private static RunningOrder withParts(RunningOrder order, Path song) throws SessionFileException {
        List<String> parts = SessionFolder.isSession(song)
                ? SongParts.names(SessionFolder.load(song).session()).stream()
                        .map(order::partOf)
                        .toList()
                : SongFiles.in(song, order).stems().stream()
                        .map(SongFiles.Stem::part)
                        .toList();
        RunningOrder more = order;
        for (String part : parts) {
            if (!part.equals(RunningOrder.LEFT_OUT)) {
                more = more.with(more.part(part));
            }
        }
        return more;
    }

    private static String title(Path song) throws SessionFileException {
        if (SessionFolder.isSession(song)) {
            return SessionFolder.load(song).session().title();
        }
        Path whole = song.toAbsolutePath().normalize();
        String name = Files.isDirectory(song)
                ? String.valueOf(Objects.requireNonNullElse(whole.getFileName(), whole))
                : FileStem.of(song);
        String title = PlainName.withoutNumber(name.replace('_', ' '));
        return title.isEmpty() ? name : title;
    }
}
