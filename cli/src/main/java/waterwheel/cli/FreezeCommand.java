package waterwheel.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;
import waterwheel.core.engine.Media;
import waterwheel.core.freezing.FreezeRun;
import waterwheel.core.freezing.Freezes;
import waterwheel.core.json.Json;
import waterwheel.core.load.Load;
import waterwheel.core.load.LoadRun;
import waterwheel.core.load.Saving;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.store.SessionFolder;
import waterwheel.core.store.SessionLock;

@Command(
        name = "freeze",
        description = "Renders channels up to a slot once, so that they cost nothing more; what lies before is locked"
                + " until they are unfrozen. Without channels it tells how it stands with those that are frozen.")
final class FreezeCommand implements Callable<Integer> {
    /** Over how much of the song it is measured what freezing saves. */
    private static final int LOAD_SECONDS = 10;

    @Mixin
    private SessionOptions options = new SessionOptions();

    @Spec
    private CommandSpec spec = CommandSpec.create();

    @Parameters(index = "1..*", arity = "0..*", paramLabel = "CHANNEL", description = "Channels, by name or id.")
    private List<String> names = List.of();

    @Option(
            names = "--through",
            paramLabel = "SLOT",
            description =
                    "The last slot that is in the frozen sound, by id or by what is in it; the last one unless said.")
    private @Nullable String through;

    @Option(names = "--all", description = "Freezes every channel that has inserts, but for the main bus.")
    private boolean all;

    @Override
    public Integer call() throws Exception {
        try (SessionLock lock = SessionLock.acquire(options.folder())) {
            SessionFolder.Loaded read = SessionFolder.load(options.folder());
            Session session = read.session();
            List<FreezeRun.Wanted> wanted = new ArrayList<>();
            for (Channel channel : channels(session)) {
                wanted.add(wanted(channel));
            }
            Session frozen = session;
            Map<ChannelId, Double> saves = wanted.isEmpty() ? Map.of() : saves(session, wanted);
            if (!wanted.isEmpty()) {
                List<FreezeRun.Rendered> rendered = Console.withProgress(
                        "Freezing", progress -> FreezeRun.run(session, options.folder(), wanted, progress));
                frozen = FreezeRun.Rendered.into(session, rendered);
                lock.save(frozen, read);
            }
            return tell(frozen, saves);
        }
    }

    /** What freezing saves, as a share of the song's time, over the first seconds of it; of none that is frozen. */
    private Map<ChannelId, Double> saves(Session session, List<FreezeRun.Wanted> wanted) throws Exception {
        Map<ChannelId, Double> saves = new HashMap<>();
        try (Media media = Media.open(session, options.folder())) {
            Set<ChannelId> frozen = Freezes.playable(session, media);
            if (wanted.stream().map(FreezeRun.Wanted::channel).allMatch(frozen::contains)) {
                return saves;
            }
            long end = Math.min(session.lengthFrames(), (long) LOAD_SECONDS * session.sampleRateHz());
            Load load = Console.withProgress(
                    "Measuring", progress -> LoadRun.run(session, media, frozen, 0, end, progress));
            for (FreezeRun.Wanted one : wanted) {
                Saving.of(load, session, List.of(one)).ifPresent(saved -> saves.put(one.channel(), saved));
            }
        }
        return saves;
    }

    private List<Channel> channels(Session session) {
        if (all) {
            return session.channels().stream()
                    .filter(channel -> !channel.id().equals(session.mainId()))
                    .filter(channel -> !channel.strip().inserts().isEmpty())
                    .toList();
        }
        return names.stream()
                .map(name -> Named.channel(spec, "channel", session.channels(), name))
                .toList();
    }

    private FreezeRun.Wanted wanted(Channel channel) {
        String asked = through;
        return asked == null
                ? FreezeRun.Wanted.last(channel)
                : new FreezeRun.Wanted(channel.id(), Optional.of(Named.slot(spec, channel, asked)));
    }

    /** @param saves by channel what freezing it saves, as a share of the song's time */
    private int tell(Session session, Map<ChannelId, Double> saves) {
        ObjectNode document = Json.object();
        ArrayNode list = document.putArray("frozen");
        boolean stale = false;
        try (Media media = Media.open(session, options.folder())) {
            for (Freezes.Frozen one : Freezes.of(session, media)) {
                ObjectNode node = list.addObject();
                node.put("channel", one.channel().value());
                one.freeze().through().ifPresent(slot -> node.put("through", slot.value()));
                node.put("path", session.source(one.freeze().source()).path());
                node.put("state", one.state().name().toLowerCase(Locale.ROOT));
                Double saved = saves.get(one.channel());
                if (saved != null) {
                    node.set("saves", Json.figure(saved, 6));
                }
                stale |= one.state() != Freezes.State.FRESH;
                if (!options.json()) {
                    Console.say(session.channel(one.channel()).name() + ": "
                            + one.state().label()
                            + (saved == null
                                    ? "."
                                    : String.format(
                                            Locale.ROOT,
                                            ". That saves %.1f ms for a second of the song.",
                                            1_000 * saved)));
                }
            }
        }
        if (options.json()) {
            Console.out().print(Json.pretty(document));
        } else if (list.isEmpty()) {
            Console.say("No channel is frozen.");
        }
        return stale ? 1 : 0;
    }
}
