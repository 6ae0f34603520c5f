package waterwheel.core.routing;

import java.util.ArrayList;
import java.util.List;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Output;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;

/** Where a channel's signal goes. */
public final class Connections {
    private Connections() {}

    /** The channels that a channel can be heard through, in signal order: output, extra outputs, sends, taps. */
    public static List<ChannelId> from(Session session, Channel channel) {
        List<ChannelId> all = new ArrayList<>(outputs(channel));
        for (Send send : channel.strip().sends()) {
            if (send.target() instanceof Send.ToBus(ChannelId bus)) {
                all.add(bus);
            }
        }
        all.addAll(taps(session, channel.id()));
        return all;
    }

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

    /** The channels that must wait for a channel's signal: those that it is heard through, and those it is a key of. */
    public static List<ChannelId> dependants(Session session, Channel channel) {
        List<ChannelId> all = new ArrayList<>(outputs(channel));
        channel.strip().sends().forEach(send -> all.add(send.target().channel()));
        all.addAll(taps(session, channel.id()));
        return all;
    }

    /** The tracks that take their signal from a channel. */
    public static List<ChannelId> taps(Session session, ChannelId channel) {
        List<ChannelId> all = new ArrayList<>();
        // Asked for every channel of a session after every edit: a plain loop, because most find nothing.
        for (Channel other : session.channels()) {
            if (other instanceof Track track
                    && track.tap().isPresent()
                    && track.tap().get().channel().equals(channel)) {
                all.add(track.id());
            }
        }
        return all;
    }
}
