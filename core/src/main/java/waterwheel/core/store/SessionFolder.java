package waterwheel.core.store;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.List;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.json.Json;
import waterwheel.core.routing.RenderOrder;
import waterwheel.core.session.Session;
import waterwheel.core.work.AsideFile;
import waterwheel.core.work.Leftovers;

/** Reads and writes a session folder. Stateless; who saves holds a {@link SessionLock}. */
public final class SessionFolder {
    /** Name of the file that makes a folder a session folder. */
    public static final String SESSION_FILE = "session.json";

    /** Where imported audio lies. */
    public static final String AUDIO = "audio";

    /** Where renders go unless another folder is chosen. */
    public static final String RENDERS = "renders";

    private static final String EARLIER = "earlier";

    /** Folders in a session's folder that are read from, and that nothing is rendered to. */
    public static final List<String> READ_FOLDERS =
            List.of(AUDIO, EARLIER, "cache", "frozen", "captures", "recordings", "prints");

    /** Names of files that make a session; no render bears one. */
    public static final List<String> OWN_FILES = List.of(SESSION_FILE, UnsavedWork.FILE);

    private SessionFolder() {}

    /**
     * A session as it was read.
     *
     * @param unknownFields places in the file that this version does not know; they are not kept when saving, but the
     *     file as it was stays among the earlier saves
     * @param digest of the file's bytes, which tells it from what somebody else saves
     */
    public record Loaded(Session session, List<String> unknownFields, String digest) {
        public Loaded {
            unknownFields = List.copyOf(unknownFields);
        }
    }

    /** Whether the folder holds a session. */
    public static boolean isSession(Path folder) {
        return Files.isRegularFile(folder.resolve(SESSION_FILE));
    }

    /**
     * Reads a session.
     *
     * @throws SessionFileException if there is none, or if its file is damaged, newer than this version, or says
     *     something that cannot be
     */
    public static Loaded load(Path folder) throws SessionFileException {
        Path file = folder.resolve(SESSION_FILE);
        if (!Files.isRegularFile(file)) {
            throw new SessionFileException(
                    folder + " is not a session folder: it has no " + SESSION_FILE + ".",
                    "Choose a folder that Waterwheel made, or make a new session of its files.");
        }
        return read(file);
    }

    private static DocumentFile document(Path folder) {
        return new DocumentFile(folder.resolve(SESSION_FILE), folder.resolve(EARLIER));
    }

    /** Reads a file that a session was written to. */
    static Loaded read(Path file) throws SessionFileException {
        return new DocumentFile(file, file.resolveSibling(EARLIER)).read((document, digest) -> {
            SessionJson.Read read = SessionJson.read(document);
            if (RenderOrder.of(read.session()) instanceof RenderOrder.Loop loop) {
                throw new SessionFileException(
                        file + " routes in a loop: " + loop.inWords(read.session()) + ".",
                        "Put back an earlier save from " + EARLIER + "/.");
            }
            return new Loaded(read.session(), read.unknownFields(), digest);
        });
    }

    /** Whether a session's file is no longer the one that was read; false where there is none any more. */
    public static boolean changedSince(Path folder, Loaded read) throws SessionFileException {
        return document(folder).changedSince(read.digest());
    }

    /**
     * Saves a session: writes it aside, forces it to disk, keeps a copy of the save before, and moves the new file over
     * the old one in one step.
     *
     * @throws SessionFileException if the disk refuses; the earlier save is untouched then
     */
    public static void save(Session session, Path folder) throws SessionFileException {
        try {
            Files.createDirectories(folder);
            Leftovers.sweep(folder);
            document(folder).write(bytes(session));
        } catch (IOException e) {
            throw new SessionFileException(
                    "The session cannot be saved to " + folder + ": " + e.getMessage() + ".",
                    "Check the folder's rights and the space on the disk, or save to another folder.",
                    e);
        }
    }

    /** What a session's file holds. */
    static byte[] bytes(Session session) {
        return Json.pretty(SessionJson.write(session)).getBytes(StandardCharsets.UTF_8);
    }

    /**
     * Saves a session to another folder with everything that it needs.
     *
     * @param from its folder now
     * @return the session as saved there
     * @throws SessionFileException if the target holds a session already or one of its files, or the disk refuses
     */
    public static Session saveAs(Session session, Path from, Path to) throws SessionFileException {
        if (isSession(to)) {
            throw new SessionFileException(to + " already holds a session.", "Choose another folder.");
        }
        try {
            for (var source : session.sources()) {
                Path original = from.resolve(source.path());
                Path copy = to.resolve(source.path());
                if (!Path.of(source.path()).isAbsolute() && Files.exists(original)) {
                    if (Files.exists(copy)) {
                        throw new SessionFileException(
                                copy + " is there already, and is not replaced.", "Choose an empty folder.");
                    }
                    Files.createDirectories(copy.toAbsolutePath().getParent());
                    AsideFile.write(copy, path -> Files.copy(original, path, StandardCopyOption.REPLACE_EXISTING));
                }
            }
        } catch (IOException e) {
            throw new SessionFileException(
                    "The session's files cannot be copied to " + to + ": " + e.getMessage() + ".",
                    "Check the folder's rights and the space on the disk.",
                    e);
        }
        save(session, to);
        return session;
    }
}
