package waterwheel.core.store;

import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
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

    private static final String LAST_CHANGE = "lastChange";

    private UnsavedWork() {}

    /**
     * What a crash left.
     *
     * @param lastChange the latest change in it, as the undo menu said it; empty where that is not known
     * @param keptAt when it was kept; what was done after that is gone
     */
    public record Found(Session session, String lastChange, Instant keptAt) {}

    /**
     * Keeps a session's state.
     *
     * @param lastChange its latest change, as the undo menu says it
     * @throws SessionFileException if the disk refuses
     */
    public static void keep(Session session, String lastChange, Path folder) throws SessionFileException {
        try {
            ObjectNode document = SessionJson.write(session);
            document.put(LAST_CHANGE, lastChange);
            byte[] text = Json.pretty(document).getBytes(StandardCharsets.UTF_8);
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
    public static Optional<Found> find(Path folder, Session saved) {
        Path file = folder.resolve(FILE);
        if (!Files.isRegularFile(file)) {
            return Optional.empty();
        }
        try {
            Session session = SessionFolder.read(file).session();
            String lastChange = Json.parse(Files.readString(file, StandardCharsets.UTF_8))
                    .path(LAST_CHANGE)
                    .asText();
            Instant keptAt = Files.getLastModifiedTime(file).toInstant();
            return Optional.of(new Found(session, lastChange, keptAt))
                    .filter(found -> !found.session().equals(saved));
        } catch (SessionFileException | IOException e) {
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
