package waterwheel.core.routing;

import java.util.LinkedHashSet;
import java.util.Set;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.session.Vca;

/** Faders with the VCAs above them. */
public final class Faders {
    private Faders() {}

    /** A channel's own fader and all VCAs above it, in dB; negative infinity where one of them is silent. */
    public static double effectiveDb(Session session, Channel channel) {
        return channel.strip().faderDb() + aboveDb(session, channel.id());
    }

    /** What the VCAs above a channel or VCA add, in dB. One that is reached by several ways counts as often. */
    public static double aboveDb(Session session, ChannelId id) {
        double sum = 0;
        for (Vca vca : session.vcas()) {
            if (vca.moves(id)) {
                sum += vca.gainDb() + aboveDb(session, vca.id());
            }
        }
        return sum;
    }

    /** The channels that a VCA moves, directly or over other VCAs, each once, in the order of the members. */
    public static Set<ChannelId> movedBy(Session session, Vca vca) {
        Set<ChannelId> found = new LinkedHashSet<>();
        for (ChannelId member : vca.members()) {
            if (!vca.moves(member)) {
                continue;
            }
            if (session.find(member).isPresent()) {
                found.add(member);
            }
            session.findVca(member).ifPresent(other -> found.addAll(movedBy(session, other)));
        }
        return found;
    }
}
