package waterwheel.core.controllers;

import java.util.List;
import java.util.function.Consumer;

/** Controllers that are connected. */
public interface ControllerPort extends AutoCloseable {
    /**
     * Begins to listen to all controllers that are connected now, and ends listening to those of before.
     *
     * @param listener called on any thread
     * @return the names of the controllers; a name ends in a number where several are called the same
     */
    List<String> listen(Consumer<ControllerMove> listener);

    /** Ends listening. */
    @Override
    void close();
}
