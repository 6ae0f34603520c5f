package waterwheel.core.routing;

import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.function.BiFunction;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;

/** What reaches a channel, and what it reaches. */
public final class Trace {
    private Trace() {}

    /** A channel with all channels that it can be heard through or listens for. */
    public static Set<ChannelId> down(Session session, ChannelId id) {
        Set<ChannelId> found = new HashSet<>(Set.of(id));
        boolean grew = true;
        while (grew) {
            grew = false;
            for (Channel channel : session.channels()) {
                if (found.contains(channel.id())) {
                    grew |= found.addAll(Connections.dependants(session, channel));
                }
            }
        }
        return found;
    }

    /** A channel with all channels that can be heard in it or that it listens to. */
    public static Set<ChannelId> up(Session session, ChannelId id) {
        return before(session, id, Connections::dependants);
    }

    /** A channel with all channels that can be heard in it; not those that it only listens to. */
    public static Set<ChannelId> heardIn(Session session, ChannelId id) {
        return before(session, id, Connections::from);
    }

    private static Set<ChannelId> before(
            Session session, ChannelId id, BiFunction<Session, Channel, List<ChannelId>> connections) {
        Set<ChannelId> found = new HashSet<>(Set.of(id));
        boolean grew = true;
        while (grew) {
            grew = false;
            for (Channel channel : session.channels()) {
                if (connections.apply(session, channel).stream().anyMatch(found::contains)) {
                    grew |= found.add(channel.id());
                }
            }
        }
        return found;
    }
}
