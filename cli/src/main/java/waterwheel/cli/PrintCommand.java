package waterwheel.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.Callable;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;
import waterwheel.core.audiofile.RenderFormat;
import waterwheel.core.edit.Parking;
import waterwheel.core.json.Json;
import waterwheel.core.printing.PrintOrder;
import waterwheel.core.printing.PrintRun;
import waterwheel.core.printing.Printed;
import waterwheel.core.printing.StandIn;
import waterwheel.core.printing.Upto;
import waterwheel.core.session.Channel;
import waterwheel.core.session.Parked;
import waterwheel.core.session.Session;
import waterwheel.core.store.SessionFolder;
import waterwheel.core.store.SessionLock;

@Command(
        name = "print",
        description =
                "Renders channels to new tracks that stand in for them, and parks them with all they have. Without"
                        + " channels it lists what is parked.")
final class PrintCommand implements Callable<Integer> {
    private static final String SENDS = "sends";
    private static final String GROUPS = "groups";

    @Mixin
    private SessionOptions options = new SessionOptions();

    @Spec
    private CommandSpec spec = CommandSpec.create();

    @Parameters(index = "1..*", arity = "0..*", paramLabel = "CHANNEL", description = "Channels, by name or id.")
    private List<String> names = List.of();

    @Option(
            names = "--through",
            paramLabel = "SLOT",
            description = "The last slot that is in the print, by id or by what is in it; the last one unless said.")
    private @Nullable String through;

    @Option(
            names = "--with",
            paramLabel = "WHAT",
            split = ",",
            description = "What else is in the print, with its rides: fader, then placement, then mute; and what goes"
                    + " over to the new track: sends, groups. Sends and groups unless said.")
    private List<String> with = List.of(SENDS, GROUPS);

    @Option(names = "--keep-source", description = "Leaves the channel as it is, beside its print.")
    private boolean keepSource;

    @Option(
            names = "--name",
            paramLabel = "PATTERN",
            description = "The new track's name; {name} stands for the channel's. Default: ${DEFAULT-VALUE}")
    private String pattern = PrintOrder.USUAL_PATTERN;

    @Option(names = "--format", paramLabel = "FORMAT", description = "32f (unless said) or 24.")
    private String format = RenderFormat.WAV_32F.option();

    @Option(
            names = "--only-same",
            description = "Prints nothing where the mix would not stay the same; says what would change.")
    private boolean onlySame;

    @Option(names = "--back", description = "Brings the channels back; their prints are parked in turn.")
    private boolean back;

    @Override
    public Integer call() throws Exception {
        try (SessionLock lock = SessionLock.acquire(options.folder())) {
            SessionFolder.Loaded read = SessionFolder.load(options.folder());
            Session session = read.session();
            if (names.isEmpty()) {
                return tell(session, List.of());
            }
            if (back) {
                Session after = session;
                for (String name : names) {
                    after = Parking.bringBack(after, parked(after, name)).apply(after);
                }
                lock.save(after, read);
                return tell(after, List.of());
            }
            List<PrintOrder> orders = new ArrayList<>();
            List<String> changes = new ArrayList<>();
            for (String name : names) {
                Channel channel = Named.channel(spec, "channel", session.channels(), name);
                PrintOrder order = order(channel);
                orders.add(order);
                StandIn.of(session, order).changes().forEach(one -> changes.add(channel.name() + ": " + one));
            }
            changes.forEach(Console::tell);
            if (onlySame && !changes.isEmpty()) {
                Console.tell("Nothing was printed.");
                return 1;
            }
            List<Printed> prints = Console.withProgress(
                    "Printing",
                    progress -> PrintRun.run(
                            session, options.folder(), orders, encoding().encoding(), progress));
            Session after = Printed.into(session, prints);
            lock.save(after, read);
            return tell(after, prints);
        }
    }

    private RenderFormat encoding() {
        if (format.equals(RenderFormat.WAV_32F.option())) {
            return RenderFormat.WAV_32F;
        }
        if (format.equals(RenderFormat.WAV_24.option())) {
            return RenderFormat.WAV_24;
        }
        throw new ParameterException(spec.commandLine(), "A print is written as 32f or 24, not as '" + format + "'.");
    }

    private PrintOrder order(Channel channel) {
        Set<String> words = new HashSet<>(with);
        PrintOrder order = PrintOrder.of(channel)
                .withSends(words.remove(SENDS))
                .withGroups(words.remove(GROUPS))
                .withKeepSource(keepSource)
                .withName(PrintOrder.named(pattern, channel));
        Upto upto = Upto.SLOT;
        boolean whole = true;
        for (Upto next : List.of(Upto.FADER, Upto.PLACEMENT, Upto.MUTE)) {
            boolean asked = words.remove(next.label());
            whole &= asked;
            if (asked) {
                if (!whole) {
                    throw new ParameterException(
                            spec.commandLine(),
                            "What comes before the " + next.label() + " must be in the print too: --with "
                                    + Arrays.stream(Upto.values())
                                            .skip(1)
                                            .filter(one -> one.compareTo(next) <= 0)
                                            .map(Upto::label)
                                            .collect(Collectors.joining(","))
                                    + ".");
                }
                upto = next;
            }
        }
        if (!words.isEmpty()) {
            throw new ParameterException(
                    spec.commandLine(),
                    "A print cannot be made with '" + words.iterator().next()
                            + "'. Choose from fader, placement, mute, sends, groups.");
        }
        if (through != null) {
            if (upto != Upto.SLOT) {
                throw new ParameterException(
                        spec.commandLine(), "With the fader every slot is in the print: leave out --through.");
            }
            return order.withThrough(Optional.of(Named.slot(spec, channel, through)));
        }
        return order.withUpto(upto);
    }

    /** By its name, or by its id, which is that of what stands in for it; of several the one that was parked last. */
    private Parked parked(Session session, String name) {
        return session.parked().reversed().stream()
                .filter(one -> one.channel().name().equalsIgnoreCase(name)
                        || one.channel().id().value().equals(name))
                .findFirst()
                .orElseThrow(() ->
                        new ParameterException(spec.commandLine(), "Nothing of the name '" + name + "' is parked."));
    }

    private int tell(Session session, List<Printed> prints) {
        ObjectNode document = Json.object();
        ArrayNode printed = document.putArray("printed");
        for (Printed one : prints) {
            printed.addObject()
                    .put("channel", one.order().channel().value())
                    .put("name", one.order().name())
                    .put("path", one.source().path());
        }
        ArrayNode list = document.putArray("parked");
        for (Parked one : session.parked()) {
            ObjectNode node = list.addObject()
                    .put("id", one.channel().id().value())
                    .put("name", one.channel().name());
            ArrayNode along = node.putArray("along");
            one.along().forEach(each -> along.add(each.channel().name()));
        }
        if (options.json()) {
            Console.out().print(Json.pretty(document));
            return 0;
        }
        prints.forEach(
                one -> Console.say(one.order().name() + ": " + one.source().path()));
        session.parked()
                .forEach(one -> Console.say("Parked: " + one.channel().name()
                        + one.along().stream()
                                .map(each -> ", " + each.channel().name())
                                .collect(Collectors.joining())));
        if (session.parked().isEmpty() && prints.isEmpty()) {
            Console.say("Nothing is parked.");
        }
        return 0;
    }
}
