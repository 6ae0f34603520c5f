package waterwheel.core.routing;

import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;

/**
 * Which channels sound. Mute silences all that leaves a channel. Solo is in place: while any channel is soloed, a
 * channel sounds only if it is soloed, solo-safe, feeds one that is, or is fed by one that is.
 */
public final class Audibility {
    private Audibility() {}

    /** The ids of the channels whose output is not silenced by a mute or by the solo of others. */
    public static Set<ChannelId> sounding(Session session) {
        Set<ChannelId> chosen = session.channels().stream()
                .filter(c -> c.strip().soloed() || c.strip().soloSafe())
                .map(Channel::id)
                .collect(Collectors.toSet());
        boolean soloing = session.channels().stream().anyMatch(c -> c.strip().soloed());
        Set<ChannelId> lit = soloing ? withNeighbours(session, chosen) : Set.of();
        return session.channels().stream()
                .filter(c -> !c.strip().muted() && (!soloing || lit.contains(c.id())))
                .map(Channel::id)
                .collect(Collectors.toUnmodifiableSet());
    }

    private static Set<ChannelId> withNeighbours(Session session, Set<ChannelId> chosen) {
        Set<ChannelId> upstream = new HashSet<>(chosen);
        Set<ChannelId> downstream = new HashSet<>(chosen);
        boolean grew = true;
        while (grew) {
            grew = false;
            for (Channel channel : session.channels()) {
                List<ChannelId> targets = Connections.from(session, channel);
                if (targets.stream().anyMatch(upstream::contains)) {
                    grew |= upstream.add(channel.id());
                }
                if (downstream.contains(channel.id())) {
                    grew |= downstream.addAll(targets);
                }
            }
        }
        upstream.addAll(downstream);
        return upstream;
    }
}
