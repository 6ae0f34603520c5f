package waterwheel.core.routing;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Clip;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;

/** What the levels of the channels of one session depend on. */
public final class Upstream {
    private final Session session;
    private final Set<ChannelId> sounding;
    private final Wiring wiring;
    private final Faders faders;

    private Upstream(Session session) {
        this.session = session;
        sounding = Audibility.sounding(session);
        wiring = Wiring.computed(session);
        faders = Faders.of(session);
    }

    /** For the channels of a session. */
    public static Upstream in(Session session) {
        return new Upstream(session);
    }

    /**
     * All settings that the level after a channel's trim depends on, and for the main bus that after its fader: two
     * sessions in which these are equal sound the same there.
     */
    public List<Object> of(ChannelId id) {
        Channel channel = session.channel(id);
        List<Object> all = new ArrayList<>();
        all.add(session.panLaw());
        addSignal(channel, all);
        if (id.equals(session.mainId())) {
            addFader(channel, all);
        }
        // What only the channel's own inserts listen to does not reach its trim, but telling that apart is not worth
        // it.
        Set<ChannelId> before = wiring.upstream(List.of(id));
        for (ChannelId one : before) {
            if (!one.equals(id)) {
                addOutgoing(session.channel(one), before, all);
            }
        }
        return all;
    }

    /** What a channel has before its inserts. */
    private void addSignal(Channel channel, List<Object> all) {
        all.add(channel.id());
        all.add(channel.strip().polarityInverted());
        all.add(channel.strip().trimDb());
        all.add(channel.strip().rides().find(Strip.TRIM.key()));
        if (channel instanceof Track track) {
            all.add(track.planes());
            all.add(track.clips());
            all.add(track.tap());
            for (Clip clip : track.clips()) {
                all.add(session.source(clip.source()).path());
            }
        }
    }

    /** A channel's fader with all VCAs above it, and what moves them. */
    private void addFader(Channel channel, List<Object> all) {
        all.add(faders.effectiveDb(channel));
        all.add(channel.strip().rides().find(Strip.FADER.key()));
        faders.above(channel.id()).forEach(vca -> all.add(vca.rides()));
    }

    /** All of a channel through to what it sends to channels of a set. */
    private void addOutgoing(Channel channel, Set<ChannelId> to, List<Object> all) {
        addSignal(channel, all);
        Strip strip = channel.strip();
        all.add(strip.inserts());
        addFader(channel, all);
        all.add(strip.rides());
        all.add(faders.muted(channel));
        all.add(sounding.contains(channel.id()));
        all.add(strip.placement());
        all.add(strip.sends().stream()
                .filter(send -> to.contains(send.target().channel()))
                .toList());
        all.add(Connections.outputs(channel).stream().filter(to::contains).toList());
    }
}
