package waterwheel.desktop.model;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import org.jspecify.annotations.Nullable;
import waterwheel.core.store.SessionFolder;

/** Notices when another program saves the session that is open here, and has it asked what is to become of that. */
public final class OutsideChanges implements AutoCloseable {
    static final double SECONDS = 2;

    private final SessionModel model;
    private final Beat clock;
    private @Nullable FileTime seen;

    /** Starts. */
    public OutsideChanges(SessionModel model) {
        this.model = model;
        clock = new Beat(SECONDS, this::look);
    }

    /** A file that was not written since the last look need not be read. */
    private void look() {
        Path file = model.folder().resolve(SessionFolder.SESSION_FILE);
        try {
            FileTime written = Files.getLastModifiedTime(file);
            if (!written.equals(seen)) {
                seen = written;
                if (model.changedOutside()) {
                    model.offerOutside();
                }
            }
        } catch (IOException e) {
            // It may be between two places; the next look will tell.
        }
    }

    @Override
    public void close() {
        clock.close();
    }
}
