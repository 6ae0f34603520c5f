package waterwheel.cli;

import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;
import waterwheel.core.captures.HardwareSlot;
import waterwheel.core.session.Session;

/** Which hardware slots a command is about. */
final class HardwareOptions {
    @Spec(Spec.Target.MIXEE)
    private CommandSpec spec = CommandSpec.create();

    @Parameters(
            index = "1..*",
            arity = "0..*",
            paramLabel = "SLOT",
            description = "Hardware slots: the name or id of a channel for all of its, or CHANNEL/SLOT for one."
                    + " All, where none is named.")
    private List<String> names = List.of();

    boolean named() {
        return !names.isEmpty();
    }

    /**
     * The slots that were named, or all.
     *
     * @throws ParameterException if there is none of a name; the message lists those that there are
     */
    List<HardwareSlot> of(Session session) {
        List<HardwareSlot> all = HardwareSlot.of(session);
        List<HardwareSlot> chosen = new ArrayList<>(names.isEmpty() ? all : List.of());
        for (String name : names) {
            List<HardwareSlot> found =
                    all.stream().filter(slot -> isCalled(session, slot, name)).toList();
            if (found.isEmpty()) {
                throw new ParameterException(
                        spec.commandLine(),
                        "The session has no hardware slot '" + name + "'. Its hardware slots are: "
                                + all.stream().map(HardwareOptions::name).collect(Collectors.joining(", ")) + ".");
            }
            chosen.addAll(found);
        }
        return chosen.stream().distinct().toList();
    }

    static String name(HardwareSlot slot) {
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
