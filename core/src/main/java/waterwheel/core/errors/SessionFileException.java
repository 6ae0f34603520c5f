package waterwheel.core.errors;

import org.jspecify.annotations.Nullable;

/** A session folder that cannot be read or written. */
public final class SessionFileException extends WaterwheelException {
    private static final long serialVersionUID = 1L;

    public SessionFileException(String problem, String remedy) {
        this(problem, remedy, null);
    }

    public SessionFileException(String problem, String remedy, @Nullable Throwable cause) {
        super(problem, remedy, cause);
    }
}
