package waterwheel.core.store;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.json.Json;
import waterwheel.core.session.Session;

/**
 * Changes that nobody has saved yet, kept beside the session file while it is open, so that a crash does not take them.
 * The session file itself is never touched by this.
 */
public final class UnsavedWork {
    /** Name of the file; it is there while a session is open with unsaved changes, or after a crash. */
    public static final String FILE = "unsaved.json";

    private UnsavedWork() {}

    /**
     * Keeps a session's state.
     *
     * @throws SessionFileException if the disk refuses
     */
    public static void keep(Session session, Path folder) throws SessionFileException {
        try {
            byte[] text = Json.pretty(SessionJson.write(session)).getBytes(StandardCharsets.UTF_8);
            DurableFile.write(folder.resolve(FILE), text, () -> {});
        } catch (IOException e) {
            throw new SessionFileException(
                    "Unsaved changes cannot be kept in " + folder + ": " + e.getMessage() + ".",
                    "Save the session to another folder.",
                    e);
        }
    }

    /**
     * Returns the work that a crash left, unless it is what was saved anyway.
     *
     * @param saved the session as it was loaded
     * @return empty where there is none, or none that can be read
     */
    public static Optional<Session> find(Path folder, Session saved) {
        Path file = folder.resolve(FILE);
        if (!Files.isRegularFile(file)) {
            return Optional.empty();
        }
        try {
            return Optional.of(SessionFolder.read(file).session()).filter(found -> !found.equals(saved));
        } catch (SessionFileException e) {
            return Optional.empty();
        }
    }

    /** Forgets what was kept. */
    public static void forget(Path folder) throws SessionFileException {
        try {
            Files.deleteIfExists(folder.resolve(FILE));
        } catch (IOException e) {
            throw new SessionFileException(
                    folder.resolve(FILE) + " cannot be removed: " + e.getMessage() + ".", "Remove it by hand.", e);
        }
    }
}
