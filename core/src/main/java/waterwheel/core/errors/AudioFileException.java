package waterwheel.core.errors;

import java.nio.file.Path;
import org.jspecify.annotations.Nullable;

/** An audio file that cannot be read, written or used. */
public final class AudioFileException extends WaterwheelException {
    private static final long serialVersionUID = 1L;

    /**
     * Names the file before the problem.
     *
     * @param problem what is wrong, as the rest of a sentence that starts with the file's name
     */
    public AudioFileException(Path file, String problem, String remedy) {
        this(file, problem, remedy, null);
    }

    public AudioFileException(Path file, String problem, String remedy, @Nullable Throwable cause) {
        super(file.getFileName() + " " + problem, remedy, cause);
    }
}
