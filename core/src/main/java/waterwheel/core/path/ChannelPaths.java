package waterwheel.core.path;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import waterwheel.core.inserts.Insert;
import waterwheel.core.routing.Audibility;
import waterwheel.core.routing.Faders;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Placement;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;
import waterwheel.core.units.Decibels;

/** The ways of all channels of a session, with what they have to do with each other looked up once. Immutable. */
public final class ChannelPaths {
    private final Session session;
    private final Faders faders;
    private final Set<ChannelId> sounding;

    private ChannelPaths(Session session) {
        this.session = session;
        faders = Faders.of(session);
        sounding = Audibility.sounding(session);
    }

    public static ChannelPaths of(Session session) {
        return new ChannelPaths(session);
    }

    /** The way of one channel. */
    public ChannelPath path(Channel channel) {
        int planes = channel.planes();
        Strip strip = channel.strip();
        List<Step> toFader = new ArrayList<>();
        if (channel instanceof Track track) {
            toFader.add(new Step.Level(Stage.CLIPS, GainMatrix.diagonal(planes, clips(track))));
        }
        toFader.add(new Step.Level(Stage.TRIM, GainMatrix.diagonal(planes, trim(strip))));
        for (Insert insert : strip.activeInserts()) {
            toFader.add(new Step.Slot(insert));
        }
        double open = sounding.contains(channel.id()) ? 1 : 0;
        return new ChannelPath(
                toFader,
                new Step.Level(
                        Stage.FADER, GainMatrix.diagonal(planes, Decibels.toFactor(faders.effectiveDb(channel)))),
                new Step.Level(Stage.PLACEMENT, placed(channel, strip.placement())),
                new Step.Level(Stage.OUTPUT, GainMatrix.diagonal(2, open)),
                branches(channel, open));
    }

    /** What all clips of a track are multiplied by after they were summed. */
    public static double clips(Track track) {
        return Decibels.toFactor(track.commonClipGainDb());
    }

    /** Polarity and trim as one factor; negative while polarity is inverted. */
    private static double trim(Strip strip) {
        return Decibels.toFactor(strip.trimDb()) * (strip.polarityInverted() ? -1 : 1);
    }

    private GainMatrix placed(Channel channel, Placement placement) {
        return GainMatrix.of(placement.gains(session.panLaw(), channel.planes()));
    }

    private List<Branch> branches(Channel channel, double open) {
        List<Branch> branches = new ArrayList<>();
        List<Send> sends = channel.strip().sends();
        for (int i = 0; i < sends.size(); i++) {
            Send send = sends.get(i);
            if (send.on()) {
                branches.add(new Branch(
                        i,
                        send,
                        send.preFader() ? Stage.TRIM : Stage.FADER,
                        Decibels.toFactor(send.levelDb()),
                        placed(channel, send.placement().orElse(channel.strip().placement())),
                        switch (send.target()) {
                            case Send.ToBus _ -> open;
                            // What only listens goes on listening while others are soloed; before the fader also while
                            // the channel is muted.
                            case Send.ToKey _ -> send.preFader() || !faders.muted(channel) ? 1 : 0;
                        }));
            }
        }
        return branches;
    }
}
