package waterwheel.cli;

import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.ParameterException;
import waterwheel.core.captures.HardwareSlot;
import waterwheel.core.session.Session;

/** Finds hardware slots by what the user calls them: a channel for all of its, or CHANNEL/SLOT for one. */
final class HardwareNames {
    static final String DESCRIPTION = "Hardware slots: the name or id of a channel for all of its, or CHANNEL/SLOT for"
            + " one. All, where none is named.";

    private HardwareNames() {}

    /**
     * The slots that are named, or all where none is.
     *
     * @throws ParameterException if there is none of a name; the message lists those that there are
     */
    static List<HardwareSlot> slots(CommandSpec spec, Session session, List<String> names) {
        List<HardwareSlot> all = HardwareSlot.of(session);
        List<HardwareSlot> chosen = new ArrayList<>(names.isEmpty() ? all : List.of());
        for (String name : names) {
            List<HardwareSlot> found =
                    all.stream().filter(slot -> isCalled(session, slot, name)).toList();
            if (found.isEmpty()) {
                throw new ParameterException(
                        spec.commandLine(),
                        "The session has no hardware slot '" + name + "'. Its hardware slots are: "
                                + all.stream().map(HardwareNames::name).collect(Collectors.joining(", ")) + ".");
            }
            chosen.addAll(found);
        }
        return chosen.stream().distinct().toList();
    }

    private static String name(HardwareSlot slot) {
        return slot.channel() + "/" + slot.slot();
    }

    private static boolean isCalled(Session session, HardwareSlot slot, String name) {
        String channel = session.channel(slot.channel()).name();
        return name.equals(slot.channel().value())
                || name.equalsIgnoreCase(channel)
                || name.equals(name(slot))
                || name.equalsIgnoreCase(channel + "/" + slot.slot());
    }
}
