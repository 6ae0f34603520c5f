package waterwheel.core.errors;

import org.jspecify.annotations.Nullable;

/** A render that cannot be started or finished. */
public final class RenderException extends WaterwheelException {
    private static final long serialVersionUID = 1L;

    public RenderException(String problem, String remedy) {
        this(problem, remedy, null);
    }

    public RenderException(String problem, String remedy, @Nullable Throwable cause) {
        super(problem, remedy, cause);
    }
}
