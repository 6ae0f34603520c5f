package waterwheel.cli;

import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import waterwheel.core.json.Json;
import waterwheel.core.order.Part;
import waterwheel.core.order.RunningOrder;
import waterwheel.core.songs.OrderLevels;
import waterwheel.core.songs.OrderLevelsJson;
import waterwheel.core.songs.OrderMeasurement;
import waterwheel.core.songs.SongRow;
import waterwheel.core.units.LevelText;

@Command(
        name = "levels",
        description = "Measures the songs, part by part, those that changed since the last time, and compares them"
                + " with the target. Ends with 1 if a song cannot be read.")
final class OrderLevelsCommand implements Callable<Integer> {
    @Mixin
    private OrderOptions options = new OrderOptions();

    @Option(names = "--jsonl", description = "Print each song's object on a line of its own as soon as it is done.")
    private boolean lines;

    @Mixin
    private SongsOption songs = new SongsOption();

    @Override
    public Integer call() throws Exception {
        RunningOrder order = songs.of(options.order());
        OrderLevels levels = Console.withProgress(
                "Measuring",
                progress -> OrderMeasurement.of(
                        order,
                        options.place(),
                        songs.all(),
                        row -> {
                            if (lines) {
                                Console.say(
                                        Json.compact(OrderLevelsJson.song(new OrderLevels(order, List.of(row)), row)));
                            }
                        },
                        progress));
        if (options.json() && !lines) {
            Console.out().print(Json.pretty(OrderLevelsJson.of(levels)));
        } else if (!lines) {
            levels.rows().forEach(row -> print(levels, row));
        }
        boolean refused = false;
        for (SongRow row : levels.rows()) {
            if (row.levels() == null) {
                refused = true;
                Console.tell(row.song().title() + ": " + row.problem());
            }
        }
        return refused ? 1 : 0;
    }

    private static void print(OrderLevels levels, SongRow row) {
        Console.say(row.song().title());
        for (Part part : levels.parts()) {
            levels.cell(row, part.name(), "").ifPresent(cell -> print(levels, part.name(), cell));
        }
        levels.sum(row, "").ifPresent(cell -> print(levels, "Sum", cell));
        levels.sentences(row).forEach(sentence -> Console.say("  " + sentence));
    }

    private static void print(OrderLevels levels, String name, OrderLevels.Cell cell) {
        String near = cell.nearness(levels.order().target())
                .map(nearness -> ", " + nearness.label() + " (" + LevelText.signed(cell.offLu(), 1, true) + " LU)")
                .orElse("");
        Console.say("  " + name + ": " + LevelText.level(cell.level().integratedLufs(), "LUFS") + ", range "
                + LevelText.signed(cell.level().rangeLu(), 1, false) + " LU, true peak "
                + LevelText.level(cell.level().truePeakDbtp(), "dBTP") + near);
    }
}
