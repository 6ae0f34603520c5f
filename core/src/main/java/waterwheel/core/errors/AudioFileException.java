package waterwheel.core.errors;

import java.io.IOException;
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

    /** A file that the disk refuses to take. */
    public static AudioFileException cannotWrite(Path file, IOException cause) {
        return new AudioFileException(
                file,
                "cannot be written: " + cause.getMessage() + ".",
                "Check the folder's rights and the space on the disk.",
                cause);
    }

    public AudioFileException(Path file, String problem, String remedy, @Nullable Throwable cause) {
        // A root has no name.
        super((file.getFileName() == null ? file : file.getFileName()) + " " + problem, remedy, cause);
    }
}
