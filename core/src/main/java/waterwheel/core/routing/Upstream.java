package waterwheel.core.routing;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import waterwheel.core.inserts.Insert;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Clip;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;

/** What the levels of the channels of one session depend on. */
public final class Upstream {
    private final Session session;
    private final Set<ChannelId> sounding;

    private Upstream(Session session) {
        this.session = session;
        sounding = Audibility.sounding(session);
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
        List<Object> all = new ArrayList<>();
        collect(session.channel(id), all);
        if (id.equals(session.mainId())) {
            all.add(Faders.effectiveDb(session, session.main()));
        }
        return all;
    }

    private void collect(Channel channel, List<Object> all) {
        Strip strip = channel.strip();
        all.add(strip.polarityInverted());
        all.add(strip.trimDb());
        switch (channel) {
            case Track track -> {
                all.add(track.planes());
                all.add(track.clips());
                track.tap().ifPresent(tap -> {
                    all.add(tap.point());
                    all.add(sounding.contains(tap.channel()));
                    collectOutgoing(session.channel(tap.channel()), all);
                });
                for (Clip clip : track.clips()) {
                    all.add(session.source(clip.source()).path());
                }
            }
            case Bus bus -> {
                all.add(session.panLaw());
                for (Channel input : session.channels()) {
                    boolean feeds = Connections.from(session, input).contains(bus.id());
                    if (feeds && !input.cue() && sounding.contains(input.id())) {
                        collectOutgoing(input, all);
                    }
                }
            }
        }
    }

    /** All of a channel through to what it sends. */
    private void collectOutgoing(Channel input, List<Object> all) {
        collect(input, all);
        all.add(Faders.effectiveDb(session, input));
        all.add(input.strip().placement());
        all.add(input.strip().sends());
        all.add(input.strip().extraOutputs());
        for (Insert insert : input.strip().inserts()) {
            all.add(insert);
            for (Channel source : session.channels()) {
                boolean key = source.strip().sends().stream()
                        .anyMatch(send -> send.target().equals(new Send.ToKey(input.id(), insert.id())));
                if (key) {
                    collectOutgoing(source, all);
                    all.add(source.strip().muted());
                }
            }
        }
    }
}
