package waterwheel.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;
import waterwheel.core.json.Json;
import waterwheel.core.order.RunningOrder;
import waterwheel.core.songs.SongTitles;

@Command(name = "add", description = "Adds songs at the end: sessions, folders of stems, or files.")
final class OrderAddCommand implements Callable<Integer> {
    @Mixin
    private OrderOptions options = new OrderOptions();

    @Parameters(
            index = "1..*",
            arity = "1..*",
            paramLabel = "SONG",
            description = "A session's folder, a folder of audio files of one length, or one audio file.")
    private List<Path> songs = new ArrayList<>();

    @Override
    public Integer call() throws Exception {
        RunningOrder order = options.change(before -> SongTitles.added(before, options.place(), songs));
        if (options.json()) {
            Console.out().print(Json.pretty(OrderListCommand.document(order, options.place())));
        } else {
            Console.say("Added " + songs.size() + (songs.size() == 1 ? " song" : " songs") + "; " + order.title()
                    + " has " + order.songs().size() + " now.");
        }
        return 0;
    }
}
