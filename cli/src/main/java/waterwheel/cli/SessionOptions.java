package waterwheel.cli;

import java.nio.file.Path;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;
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

    /** Measures a session whose files lie in the folder, showing progress. */
    SessionLevels measure(Session session) throws Exception {
        return Console.withProgress("Measuring", progress -> SessionMeasurement.of(session, folder, progress));
    }
}
