package waterwheel.desktop.model;

import java.util.Timer;
import java.util.TimerTask;
import java.util.concurrent.atomic.AtomicBoolean;
import javafx.application.Platform;

/**
 * Does something on the interface's thread every so often. The toolkit's own clocks would have it ready to draw sixty
 * times a second for as long as one runs, which takes a part of a core where nothing is to be drawn.
 */
final class Beat implements AutoCloseable {
    private final Timer clock = new Timer("waterwheel-beat", true);
    private final AtomicBoolean waits = new AtomicBoolean();
    private volatile boolean closed;

    Beat(double seconds, Runnable work) {
        long millis = Math.round(seconds * 1_000);
        clock.schedule(
                new TimerTask() {
                    @Override
                    public void run() {
                        tell(work);
                    }
                },
                millis,
                millis);
    }

    /** At most one waits at a time, however busy the interface is. */
    private void tell(Runnable work) {
        if (waits.compareAndSet(false, true)) {
            Platform.runLater(() -> {
                waits.set(false);
                if (!closed) {
                    work.run();
                }
            });
        }
    }

    @Override
    public void close() {
        closed = true;
        clock.cancel();
    }
}
