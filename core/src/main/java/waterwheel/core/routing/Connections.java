package waterwheel.core.routing;

import java.util.List;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Output;

/** Where a channel's signal goes. */
public final class Connections {
    private Connections() {}

    /** The buses that a channel feeds, in signal order. */
    public static List<ChannelId> from(Channel channel) {
        return switch (channel.strip().output()) {
            case Output.ToBus(ChannelId bus) -> List.of(bus);
            case Output.Nowhere() -> List.of();
        };
    }
}
