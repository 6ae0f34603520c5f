package waterwheel.core.errors;

import org.jspecify.annotations.Nullable;

/** An audio interface that cannot be opened. */
public final class DeviceException extends WaterwheelException {
    private static final long serialVersionUID = 1L;

    public DeviceException(String problem, String remedy) {
        this(problem, remedy, null);
    }

    public DeviceException(String problem, String remedy, @Nullable Throwable cause) {
        super(problem, remedy, cause);
    }
}
