package waterwheel.core.session;

import java.util.List;

/**
 * Where a channel goes.
 *
 * @param extraOutputs further buses that the channel feeds at unity, beside its output
 * @param sends branches of the signal
 */
public record Routing(Output output, List<ChannelId> extraOutputs, List<Send> sends) {
    public Routing {
        extraOutputs = List.copyOf(extraOutputs);
        sends = List.copyOf(sends);
    }

    /** One way and no other. */
    public static Routing to(Output output) {
        return new Routing(output, List.of(), List.of());
    }
}
