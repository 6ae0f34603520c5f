package waterwheel.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import waterwheel.core.json.Json;
import waterwheel.core.order.RunningOrder;
import waterwheel.core.order.Song;
import waterwheel.core.songs.OrderPlace;

@Command(name = "list", description = "Lists the songs.")
final class OrderListCommand implements Callable<Integer> {
    @Mixin
    private OrderOptions options = new OrderOptions();

    @Override
    public Integer call() throws Exception {
        RunningOrder order = options.order();
        if (options.json()) {
            Console.out().print(Json.pretty(document(order, options.place())));
            return 0;
        }
        Console.say(order.title());
        for (Song song : order.songs()) {
            Console.say("  " + song.id() + "  " + song.title() + "  ("
                    + options.place().of(song) + ")");
        }
        return 0;
    }

    /** The songs, by their ids. */
    static ObjectNode document(RunningOrder order, OrderPlace place) {
        ObjectNode node = Json.object();
        node.put("title", order.title());
        ArrayNode songs = node.putArray("songs");
        for (Song song : order.songs()) {
            songs.addObject()
                    .put("id", song.id().value())
                    .put("title", song.title())
                    .put("path", place.of(song).toString());
        }
        ArrayNode lineUps = node.putArray("lineUps");
        order.lineUps().forEach(one -> lineUps.add(one.name()));
        return node;
    }
}
