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

/** What the level of a channel depends on. */
public final class Upstream {
    private Upstream() {}

    /**
     * All settings that the level after a channel's trim depends on, and for the main bus that after its fader: two
     * sessions in which these are equal sound the same there.
     */
    public static List<Object> of(Session session, ChannelId id) {
        List<Object> all = new ArrayList<>();
        collect(session, Audibility.sounding(session), session.channel(id), all);
        if (id.equals(session.mainId())) {
            all.add(Faders.effectiveDb(session, session.main()));
        }
        return all;
    }

    private static void collect(Session session, Set<ChannelId> sounding, Channel channel, List<Object> all) {
        Strip strip = channel.strip();
        all.add(strip.polarityInverted());
        all.add(strip.trimDb());
        switch (channel) {
            case Track track -> {
                all.add(track.planes());
                all.add(track.clips());
                for (Clip clip : track.clips()) {
                    all.add(session.source(clip.source()).path());
                }
            }
            case Bus bus -> {
                all.add(session.panLaw());
                for (Channel input : session.channels()) {
                    boolean feeds = Connections.from(input).contains(bus.id());
                    boolean cue = input instanceof Track track && track.kind() == Track.Kind.CUE;
                    if (feeds && !cue && sounding.contains(input.id())) {
                        collectOutgoing(session, sounding, input, all);
                    }
                }
            }
        }
    }

    /** All of a channel through to what it sends. */
    private static void collectOutgoing(Session session, Set<ChannelId> sounding, Channel input, List<Object> all) {
        collect(session, sounding, input, all);
        all.add(Faders.effectiveDb(session, input));
        all.add(input.strip().placement());
        all.add(input.strip().sends());
        for (Insert insert : input.strip().inserts()) {
            all.add(insert);
            for (Channel source : session.channels()) {
                boolean key = source.strip().sends().stream()
                        .anyMatch(send -> send.target().equals(new Send.ToKey(input.id(), insert.id())));
                if (key) {
                    collectOutgoing(session, sounding, source, all);
                    all.add(source.strip().muted());
                }
            }
        }
    }
}
