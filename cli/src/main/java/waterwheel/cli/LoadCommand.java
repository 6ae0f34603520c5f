package waterwheel.cli;

import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import waterwheel.core.engine.Media;
import waterwheel.core.freezing.Freezes;
import waterwheel.core.json.Json;
import waterwheel.core.load.Load;
import waterwheel.core.load.LoadJson;
import waterwheel.core.load.LoadRun;
import waterwheel.core.load.PartLoad;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;

@Command(
        name = "load",
        description = "What every channel and slot costs: runs the song in the session's blocks on one thread, as"
                + " playing does, and tells the milliseconds that each takes for a second of the song.")
final class LoadCommand implements Callable<Integer> {
    @Mixin
    private SessionOptions options = new SessionOptions();

    @Option(names = "--unfrozen", description = "Computes what is frozen, to tell what it would cost.")
    private boolean unfrozen;

    @Override
    public Integer call() throws Exception {
        Session session = options.session();
        boolean problems = options.tellOfProblems(session);
        try (Media media = Media.open(session, options.folder())) {
            Set<ChannelId> frozen = unfrozen ? Set.of() : Freezes.playable(session, media);
            Load load = Console.withProgress(
                    "Measuring", progress -> LoadRun.run(session, media, frozen, 0, session.lengthFrames(), progress));
            if (options.json()) {
                Console.out().print(Json.pretty(LoadJson.of(load, session)));
            } else {
                print(load, session);
            }
        }
        return problems ? 1 : 0;
    }

    private static void print(Load load, Session session) {
        Console.say(String.format(
                Locale.ROOT,
                "%.1f ms for a second of the song (%.1f times real time), worst block %.0f %% of its time",
                1_000 * load.whole().mean(),
                1 / load.whole().mean(),
                100 * load.whole().worst()));
        List<Channel> dearestFirst = session.channels().stream()
                .sorted(Comparator.comparingDouble(
                        (Channel channel) -> -load.of(channel).mean()))
                .toList();
        for (Channel channel : dearestFirst) {
            print("", channel.name(), load.of(channel), load);
            channel.strip().inserts().forEach(insert -> load.of(channel.id(), Optional.of(insert.id()))
                    .ifPresent(one -> print("  ", insert.processor().kind().label(), one, load)));
        }
    }

    private static void print(String indent, String name, PartLoad part, Load load) {
        Console.say(String.format(
                Locale.ROOT,
                "%-30s %8.3f ms/s %6.1f %%",
                indent + name,
                1_000 * part.mean(),
                100 * part.mean() / load.whole().mean()));
    }
}
