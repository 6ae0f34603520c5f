package waterwheel.core.routing;

import java.util.List;
import java.util.Set;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;

/** What reaches a channel, and what it reaches. */
public final class Trace {
    private Trace() {}

    /** A channel with all channels that it can be heard through or that listen to it. */
    public static Set<ChannelId> down(Session session, ChannelId id) {
        return Wiring.computed(session).downstream(List.of(id));
    }

    /** A channel with all channels that can be heard in it or that it listens to. */
    public static Set<ChannelId> up(Session session, ChannelId id) {
        return Wiring.computed(session).upstream(List.of(id));
    }
}
