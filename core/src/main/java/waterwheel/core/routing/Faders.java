package waterwheel.core.routing;

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
}
