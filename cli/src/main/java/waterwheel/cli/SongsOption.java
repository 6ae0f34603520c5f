package waterwheel.cli;

import java.util.List;
import picocli.CommandLine.Option;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.order.RunningOrder;

/** Which songs of a running order a command works on. */
final class SongsOption {
    @Option(
            names = "--song",
            paramLabel = "SONG",
            arity = "1..*",
            description = "Only these, by title or id; by default all.")
    private List<String> songs = List.of();

    /** Whether none was named, so that all are meant. */
    boolean all() {
        return songs.isEmpty();
    }

    /** The running order with these songs alone. */
    RunningOrder of(RunningOrder order) throws SessionFileException {
        return OrderOptions.only(order, songs);
    }
}
