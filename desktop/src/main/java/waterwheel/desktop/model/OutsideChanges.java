package waterwheel.desktop.model;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import javafx.animation.Animation;
import javafx.animation.KeyFrame;
import javafx.animation.Timeline;
import javafx.util.Duration;
import org.jspecify.annotations.Nullable;
import waterwheel.core.store.SessionFolder;

/** Notices when another program saves the session that is open here, and has it asked what is to become of that. */
public final class OutsideChanges implements AutoCloseable {
    static final double SECONDS = 2;

    private final SessionModel model;
    private final Timeline clock;
    private @Nullable FileTime seen;

    /** Starts. */
    public OutsideChanges(SessionModel model) {
        this.model = model;
        clock = new Timeline(new KeyFrame(Duration.seconds(SECONDS), event -> look()));
        clock.setCycleCount(Animation.INDEFINITE);
        clock.play();
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
        clock.stop();
    }
}
