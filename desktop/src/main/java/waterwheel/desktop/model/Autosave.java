package waterwheel.desktop.model;

import java.nio.file.Path;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import javafx.application.Platform;
import org.jspecify.annotations.Nullable;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.session.Session;
import waterwheel.core.store.UnsavedWork;

/**
 * Keeps the unsaved changes of an open session every few seconds, beside the interface, and forgets them when they are
 * saved or left. What an earlier crash left stays until it is taken up or dropped.
 */
public final class Autosave implements AutoCloseable {
    static final double SECONDS = 4;

    private final SessionModel model;
    private final ExecutorService disk = Executors.newSingleThreadExecutor(
            Thread.ofPlatform().daemon().name("waterwheel-autosave").factory());
    private final Beat clock;
    private @Nullable Session kept;
    /** Whether the file is this one's own rather than what a crash left. */
    private boolean own;

    /** Starts. */
    public Autosave(SessionModel model) {
        this.model = model;
        clock = new Beat(SECONDS, this::look);
    }

    private void look() {
        if (model.unsavedProperty().get()) {
            keep();
        } else if (kept != null) {
            forget();
        }
    }

    private void keep() {
        Session now = model.session();
        if (!now.equals(kept)) {
            kept = now;
            own = true;
            Path folder = model.folder();
            String lastChange = model.historyProperty().get().undoName().orElse("");
            write(() -> UnsavedWork.keep(now, lastChange, folder));
        }
    }

    /**
     * Has what is about to be saved kept, where something older is: otherwise a crash right after saving would leave
     * older changes that look as if they were newer. Waits for the disk.
     */
    public void beforeSaving() {
        if (own && kept != null) {
            keep();
            try {
                disk.submit(() -> {}).get(5, TimeUnit.SECONDS);
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            } catch (ExecutionException | TimeoutException e) {
                // A disk that is as slow as that will tell when the session is saved.
            }
        }
    }

    /** What was left by a crash has been taken up or dropped: it goes when the changes that are open now do. */
    public void answered() {
        own = true;
        forget();
    }

    private void forget() {
        kept = null;
        if (own) {
            own = false;
            Path folder = model.folder();
            write(() -> UnsavedWork.forget(folder));
        }
    }

    /** Work on the disk. */
    private interface Writing {
        void run() throws SessionFileException;
    }

    private void write(Writing writing) {
        disk.execute(() -> {
            try {
                writing.run();
            } catch (SessionFileException e) {
                Platform.runLater(() -> model.tell(e.getMessage()));
            }
        });
    }

    /** Ends with the session, whose unsaved changes were saved or left knowingly. */
    @Override
    public void close() {
        clock.close();
        forget();
        disk.shutdown();
        try {
            if (!disk.awaitTermination(2, TimeUnit.SECONDS)) {
                disk.shutdownNow();
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }
}
