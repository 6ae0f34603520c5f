package waterwheel.cli;

import java.util.List;
import java.util.stream.Collectors;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.ParameterException;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.session.Channel;
import waterwheel.core.session.Section;
import waterwheel.core.session.Session;

/** Finds channels and slots by what the user calls them. */
final class Named {
    private Named() {}

    /**
     * The channel with a name, in any case, or an id.
     *
     * @param kind what they are called in the message, such as {@code track}
     * @throws ParameterException if there is none; the message lists those that there are
     */
    static <C extends Channel> C channel(CommandSpec spec, String kind, List<C> channels, String name) {
        return channels.stream()
                .filter(c -> c.name().equalsIgnoreCase(name) || c.id().value().equals(name))
                .findFirst()
                .orElseThrow(() -> new ParameterException(
                        spec.commandLine(),
                        "The session has no " + kind + " '" + name + "'. Its " + kind + "s are: "
                                + channels.stream().map(Channel::name).collect(Collectors.joining(", ")) + "."));
    }

    /**
     * The slot of a channel with an id, or with what is in it, in any case.
     *
     * @throws ParameterException if there is none
     */
    static SlotId slot(CommandSpec spec, Channel channel, String name) {
        return channel.strip().inserts().stream()
                .filter(insert -> insert.id().value().equals(name)
                        || insert.processor().kind().label().equalsIgnoreCase(name))
                .findFirst()
                .orElseThrow(() ->
                        new ParameterException(spec.commandLine(), channel.name() + " has no slot '" + name + "'."))
                .id();
    }

    /**
     * The section with a name, in any case.
     *
     * @throws ParameterException if there is none; the message lists those that there are
     */
    static Section section(CommandSpec spec, Session session, String name) {
        List<Section> all = session.sections();
        return all.stream()
                .filter(s -> s.name().equalsIgnoreCase(name))
                .findFirst()
                .orElseThrow(() -> new ParameterException(
                        spec.commandLine(),
                        "The session has no section '" + name + "'. "
                                + (all.isEmpty()
                                        ? "It has none at all; make one in the song strip."
                                        : "Its sections are: "
                                                + all.stream()
                                                        .map(Section::name)
                                                        .collect(Collectors.joining(", "))
                                                + ".")));
    }
}
