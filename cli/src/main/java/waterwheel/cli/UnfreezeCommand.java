package waterwheel.cli;

import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;
import waterwheel.core.edit.FreezeLock;
import waterwheel.core.json.Json;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.store.SessionFolder;
import waterwheel.core.store.SessionLock;

@Command(name = "unfreeze", description = "Computes frozen channels again; nothing is lost.")
final class UnfreezeCommand implements Callable<Integer> {
    @Mixin
    private SessionOptions options = new SessionOptions();

    @Spec
    private CommandSpec spec = CommandSpec.create();

    @Parameters(index = "1..*", arity = "0..*", paramLabel = "CHANNEL", description = "Channels, by name or id.")
    private List<String> names = List.of();

    @Option(names = "--all", description = "Unfreezes all.")
    private boolean all;

    @Override
    public Integer call() throws Exception {
        try (SessionLock lock = SessionLock.acquire(options.folder())) {
            SessionFolder.Loaded read = SessionFolder.load(options.folder());
            Session session = read.session();
            List<ChannelId> channels = all
                    ? session.channels().stream().map(Channel::id).toList()
                    : names.stream()
                            .map(name -> Named.channel(spec, "channel", session.channels(), name)
                                    .id())
                            .toList();
            long count = channels.stream()
                    .filter(id -> session.channel(id).strip().freeze().isPresent())
                    .count();
            lock.save(FreezeLock.unfrozen(session, channels), read);
            if (options.json()) {
                Console.out().print(Json.pretty(Json.object().put("unfrozen", count)));
            } else {
                Console.say(count + (count == 1 ? " channel is" : " channels are") + " computed again.");
            }
            return 0;
        }
    }
}
