package waterwheel.core.store;

import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.channels.OverlappingFileLockException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Duration;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import waterwheel.core.edit.FreezeLock;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.freezing.FreezeRun;
import waterwheel.core.session.Session;

/**
 * The right to save a session, held by one at a time on a machine: commands hold it from reading to saving, the window
 * while it saves. The system takes it from a process that ends, however it ends. Close it on any thread.
 */
public final class SessionLock implements AutoCloseable {
    /** The file whose lock it is; it stays, because who waits for it must find the same one. */
    static final String FILE = ".session.lock";

    private static final Duration PATIENCE = Duration.ofSeconds(5);
    private static final Duration PAUSE = Duration.ofMillis(20);

    private final @Nullable Path folder;
    private final @Nullable FileChannel channel;

    private SessionLock(@Nullable Path folder, @Nullable FileChannel channel) {
        this.folder = folder;
        this.channel = channel;
    }

    /** No right at all, for who only reads. */
    public static SessionLock none() {
        return new SessionLock(null, null);
    }

    /**
     * Waits for the right to save to a folder.
     *
     * @throws SessionFileException if another process holds it for longer than five seconds, or the folder cannot be
     *     written
     */
    public static SessionLock acquire(Path folder) throws SessionFileException {
        return acquire(folder, PATIENCE);
    }

    static SessionLock acquire(Path folder, Duration patience) throws SessionFileException {
        long end = System.nanoTime() + patience.toNanos();
        try {
            Files.createDirectories(folder);
            FileChannel channel =
                    FileChannel.open(folder.resolve(FILE), StandardOpenOption.CREATE, StandardOpenOption.WRITE);
            while (!locked(channel)) {
                if (System.nanoTime() > end) {
                    channel.close();
                    throw new SessionFileException(
                            folder + " is being saved by another Waterwheel.",
                            "Wait until that has ended, and try again.");
                }
                Thread.sleep(PAUSE);
            }
            return new SessionLock(folder, channel);
        } catch (IOException e) {
            throw new SessionFileException(
                    "The session cannot be saved to " + folder + ": " + e.getMessage() + ".",
                    "Check the folder's rights, or save to another folder.",
                    e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new SessionFileException("Saving was interrupted.", "Save again.", e);
        }
    }

    private static boolean locked(FileChannel channel) throws IOException {
        try {
            FileLock lock = channel.tryLock();
            return lock != null;
        } catch (OverlappingFileLockException e) {
            // Somebody else in this process has it.
            return false;
        }
    }

    /**
     * Saves a session, if its file is still the one that was read.
     *
     * @param read what the session was made of
     * @return the session as it lies in the file now
     * @throws SessionFileException if the file was changed by somebody else since, or the disk refuses; the file is as
     *     it was then
     */
    public SessionFolder.Loaded save(Session session, SessionFolder.Loaded read) throws SessionFileException {
        if (folder == null) {
            throw new IllegalStateException("lock: none (expected: one that was acquired)");
        }
        Optional<FreezeLock.Broken> broken = FreezeLock.broken(read.session(), session);
        if (broken.isPresent()) {
            throw new SessionFileException(
                    broken.get().sentence(), "Unfreeze it first (waterwheel unfreeze), then run the command again.");
        }
        if (SessionFolder.changedSince(folder, read)) {
            throw new SessionFileException(
                    folder.resolve(SessionFolder.SESSION_FILE) + " was changed by another program since it was read.",
                    "Run the command again; it begins with the session as it is now.");
        }
        SessionFolder.save(session, folder);
        FreezeRun.sweep(session, folder);
        return SessionFolder.load(folder);
    }

    @Override
    public void close() {
        if (channel != null) {
            try {
                channel.close();
            } catch (IOException e) {
                // The system takes the lock when the process ends.
            }
        }
    }
}
