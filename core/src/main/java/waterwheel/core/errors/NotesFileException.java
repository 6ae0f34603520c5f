package waterwheel.core.errors;

import java.nio.file.Path;
import org.jspecify.annotations.Nullable;
import waterwheel.core.units.PlainText;

/** A file of notes, or of an instrument, that cannot be used. */
public final class NotesFileException extends WaterwheelException {
    private static final long serialVersionUID = 1L;

    /** @param problem what is wrong with the file, as the rest of a sentence that begins with its name */
    public NotesFileException(Path file, String problem, String remedy, @Nullable Throwable cause) {
        super(PlainText.of(String.valueOf(file.getFileName()), 120) + " " + problem, remedy, cause);
    }
}
