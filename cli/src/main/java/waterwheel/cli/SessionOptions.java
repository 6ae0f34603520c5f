package waterwheel.cli;

import java.nio.file.Path;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;
import waterwheel.core.engine.Media;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.levels.SessionLevels;
import waterwheel.core.levels.SessionMeasurement;
import waterwheel.core.session.Session;
import waterwheel.core.store.SessionFolder;

/** What every command takes that works on a session. */
final class SessionOptions {
    @Mixin
    private CommonOptions common = new CommonOptions();

    @Parameters(index = "0", paramLabel = "SESSION", description = "The session's folder.")
    private Path folder = Path.of("");

    boolean json() {
        return common.json;
    }

    Path folder() {
        return folder;
    }

    Session session() throws SessionFileException {
        return SessionFolder.load(folder).session();
    }

    /**
     * Says which files cannot be played, so that their tracks are silent where they are.
     *
     * @return whether there are any
     */
    boolean tellOfProblems(Session session) {
        try (Media media = Media.open(session, folder)) {
            media.sentences().values().forEach(Console::tell);
            tellOfChanged(media, session);
            return !media.problems().isEmpty();
        }
    }

    /** Says which files hold other audio than when the session was made. */
    void tellOfChanged(Session session) {
        try (Media media = Media.open(session, folder)) {
            tellOfChanged(media, session);
        }
    }

    private static void tellOfChanged(Media media, Session session) {
        media.changed()
                .keySet()
                .forEach(id -> Console.tell(session.source(id).fileName()
                        + " holds other audio than when the session was made, of the same length. Put the original"
                        + " back, or take it as it is in Findings."));
    }

    /** Measures what the window shows of a session whose files lie in the folder, showing progress. */
    SessionLevels measure(Session session) throws Exception {
        return Console.withProgress("Measuring", progress -> SessionMeasurement.asShown(session, folder, progress));
    }
}
