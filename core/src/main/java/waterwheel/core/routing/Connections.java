package waterwheel.core.routing;

import java.util.ArrayList;
import java.util.List;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Output;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;

/** Where a channel's signal goes. */
public final class Connections {
    private Connections() {}

    /** The buses that a channel feeds at unity: its output and its extra outputs. */
    public static List<ChannelId> outputs(Channel channel) {
        List<ChannelId> all = new ArrayList<>();
        if (channel.strip().output() instanceof Output.ToBus(ChannelId bus)) {
            all.add(bus);
        }
        all.addAll(channel.strip().extraOutputs());
        return all;
    }

    /** The channels that feed a bus at unity, in session order; not those that are never part of the mix. */
    public static List<Channel> feeding(Session session, ChannelId bus) {
        return session.channels().stream()
                .filter(channel -> !channel.cue() && outputs(channel).contains(bus))
                .toList();
    }

    /** The channels that a bus gets sends from, in session order. */
    public static List<Channel> sendingTo(Session session, ChannelId bus) {
        return session.channels().stream()
                .filter(channel -> channel.strip().sends().stream()
                        .anyMatch(send -> send.target().equals(new Send.ToBus(bus))))
                .toList();
    }
}
