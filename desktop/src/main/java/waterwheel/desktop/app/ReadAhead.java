package waterwheel.desktop.app;

import java.nio.file.Path;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.FutureTask;
import org.jspecify.annotations.Nullable;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.store.SessionFolder;

/** A session that is read while the toolkit comes up. Of one start; whoever takes it has it to himself. */
final class ReadAhead {
    private static @Nullable ReadAhead begun;

    private final Path folder;
    private final FutureTask<SessionFolder.Loaded> reading;

    private ReadAhead(Path folder) {
        this.folder = folder;
        reading = new FutureTask<>(() -> SessionFolder.load(folder));
    }

    /** Begins to read what the application is about to be started with. */
    static synchronized void begin(Path folder) {
        ReadAhead ahead = new ReadAhead(folder);
        begun = ahead;
        Thread.ofPlatform().daemon().name("waterwheel-reading-ahead").start(ahead.reading);
    }

    /** A session as it is read, begun with or not. */
    static SessionFolder.Loaded take(Path folder) throws SessionFileException {
        ReadAhead ahead = taken();
        try {
            if (ahead != null && ahead.folder.equals(folder)) {
                return ahead.reading.get();
            }
        } catch (ExecutionException e) {
            // Read again below, so that what is wrong is told by whoever finds it.
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
        return SessionFolder.load(folder);
    }

    private static synchronized @Nullable ReadAhead taken() {
        ReadAhead ahead = begun;
        begun = null;
        return ahead;
    }
}
