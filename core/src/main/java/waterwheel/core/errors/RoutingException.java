package waterwheel.core.errors;

import org.jspecify.annotations.Nullable;

/** A connection that cannot be made, such as one that would close a loop. */
public final class RoutingException extends WaterwheelException {
    private static final long serialVersionUID = 1L;

    public RoutingException(String problem, String remedy) {
        this(problem, remedy, null);
    }

    public RoutingException(String problem, String remedy, @Nullable Throwable cause) {
        super(problem, remedy, cause);
    }
}
