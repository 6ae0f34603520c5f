package waterwheel.core.songs;

import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import waterwheel.core.errors.WaterwheelException;
import waterwheel.core.order.RunningOrder;
import waterwheel.core.order.Song;
import waterwheel.core.order.Stretch;
import waterwheel.core.session.Session;
import waterwheel.core.store.SessionFolder;
import waterwheel.core.work.Progress;

/**
 * Looks at songs as they lie on the disk, cheaply enough to do it again and again: a session is read only when its file
 * was written. One thread at a time.
 */
final class SongReader {
    private final OrderPlace place;
    private final Map<Path, Read> sessions = new HashMap<>();

    SongReader(OrderPlace place) {
        this.place = place;
    }

    private record Read(String stamp, Session session) {}

    /**
     * A song as it lies there now.
     *
     * @param stamp tells this state of it; that of a session whose parts are not rendered is no measured song's
     * @param session what its parts are to be rendered from; empty for a song of files
     * @param files its stems; empty where they are not rendered yet
     * @param sections in seconds
     */
    record Look(
            Song song,
            String stamp,
            Optional<SongParts.Seen> session,
            Optional<SongFiles> files,
            List<Stretch> sections) {
        Look {
            sections = List.copyOf(sections);
        }
    }

    /**
     * Looks at a song.
     *
     * @throws WaterwheelException if it cannot be read
     */
    Look look(Song song, RunningOrder order) throws WaterwheelException {
        Path where = place.of(song);
        if (!SessionFolder.isSession(where)) {
            SongFiles files = SongFiles.in(where, order);
            return new Look(
                    song,
                    SongStamp.ofLevels(song, files, order),
                    Optional.empty(),
                    Optional.of(files),
                    song.sections());
        }
        SongParts.Seen seen = seen(where);
        List<Stretch> sections = song.sections().isEmpty() ? sections(seen.session()) : song.sections();
        Path parts = place.parts(song.id());
        if (!SongParts.upToDate(parts, seen)) {
            return new Look(song, "unrendered " + seen.stamp(), Optional.of(seen), Optional.empty(), sections);
        }
        SongFiles files = SongFiles.in(parts, order);
        String stamp = SongStamp.hex(SongStamp.ofLevels(song, files, order) + seen.stamp());
        return new Look(song, stamp, Optional.of(seen), Optional.of(files), sections);
    }

    /** Looks at a song, and renders the parts of a session that changed. */
    Look ready(Song song, RunningOrder order, Progress progress) throws WaterwheelException {
        return ready(look(song, order), order, progress);
    }

    /** The same of a song that was looked at. */
    Look ready(Look look, RunningOrder order, Progress progress) throws WaterwheelException {
        Song song = look.song();
        if (look.session().isEmpty() || look.files().isPresent()) {
            return look;
        }
        SongParts.make(place.of(song), look.session().get(), place.parts(song.id()), progress);
        return look(song, order);
    }

    private SongParts.Seen seen(Path folder) throws WaterwheelException {
        String stamp = SongStamp.ofFile(folder.resolve(SessionFolder.SESSION_FILE));
        Read known = sessions.get(folder);
        if (known == null || !known.stamp().equals(stamp)) {
            known = new Read(stamp, SessionFolder.load(folder).session());
            sessions.put(folder, known);
        }
        return new SongParts.Seen(known.session(), SongStamp.ofSession(folder, known.session()));
    }

    private static List<Stretch> sections(Session session) {
        double rate = session.sampleRateHz();
        return session.sections().stream()
                .map(one -> new Stretch(one.name(), one.startFrames() / rate, one.endFrames() / rate))
                .toList();
    }
}
