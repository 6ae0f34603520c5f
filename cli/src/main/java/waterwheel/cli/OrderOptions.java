package waterwheel.cli;

import java.nio.file.Path;
import java.util.List;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.order.RunningOrder;
import waterwheel.core.order.Song;
import waterwheel.core.songs.OrderPlace;
import waterwheel.core.store.OrderFile;
import waterwheel.core.store.SessionLock;

/** What every command takes that works on a running order. */
final class OrderOptions {
    @Mixin
    private CommonOptions common = new CommonOptions();

    @Parameters(index = "0", paramLabel = "ORDER", description = "The running order's file.")
    private Path file = Path.of("");

    boolean json() {
        return common.json;
    }

    Path file() {
        return file;
    }

    OrderPlace place() {
        return new OrderPlace(file);
    }

    RunningOrder order() throws SessionFileException {
        return OrderFile.load(file).order();
    }

    /** Changes it: nobody else saves between reading and saving. */
    RunningOrder change(Change change) throws SessionFileException {
        try (SessionLock _ = SessionLock.acquire(OrderFile.working(file))) {
            RunningOrder before = OrderFile.load(file).order();
            RunningOrder after = change.of(before);
            if (!after.equals(before)) {
                OrderFile.save(after, file);
            }
            return after;
        }
    }

    /** A change that may refuse. */
    interface Change {
        RunningOrder of(RunningOrder order) throws SessionFileException;
    }

    /**
     * The songs that were named by title or id; all where none was.
     *
     * @throws SessionFileException if there is no such song
     */
    static RunningOrder only(RunningOrder order, List<String> named) throws SessionFileException {
        if (named.isEmpty()) {
            return order;
        }
        for (String name : named) {
            if (order.songs().stream().noneMatch(song -> is(song, name))) {
                throw new SessionFileException(
                        "There is no song '" + name + "' in " + order.title() + ".",
                        "Name one by its title or id; 'order list' shows them.");
            }
        }
        return order.withSongs(order.songs().stream()
                .filter(song -> named.stream().anyMatch(name -> is(song, name)))
                .toList());
    }

    private static boolean is(Song song, String name) {
        return song.id().value().equals(name) || song.title().equalsIgnoreCase(name);
    }
}
