package waterwheel.core.path;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import waterwheel.core.inserts.Insert;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.Ride;
import waterwheel.core.rides.Rides;
import waterwheel.core.routing.Audibility;
import waterwheel.core.routing.Faders;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Placement;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;
import waterwheel.core.session.Vca;
import waterwheel.core.units.Decibels;

/** The ways of all channels of a session, with what they have to do with each other looked up once. Immutable. */
public final class ChannelPaths {
    private final Session session;
    private final Faders faders;
    private final Set<ChannelId> sounding;

    private ChannelPaths(Session session) {
        this.session = session;
        faders = Faders.of(session);
        sounding = Audibility.beforeMutes(session);
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
        toFader.add(trim(strip, planes));
        for (Insert insert : strip.activeInserts()) {
            toFader.add(new Step.Slot(insert));
        }
        double open = sounding.contains(channel.id()) ? 1 : 0;
        return new ChannelPath(
                toFader,
                fader(channel),
                placement(channel, strip.placement(), strip.rides()),
                gate(channel, open, 2),
                branches(channel, open));
    }

    /** What all clips of a track are multiplied by after they were summed. */
    public static double clips(Track track) {
        return Decibels.toFactor(track.commonClipGainDb());
    }

    /** Polarity and trim as one factor; negative while polarity is inverted. */
    private static Step trim(Strip strip, int planes) {
        double sign = strip.polarityInverted() ? -1 : 1;
        return strip.rides()
                .active(Strip.TRIM.key())
                .<Step>map(ride -> new Step.Moving(Stage.TRIM, new Motion.Level(List.of(ride), 0, sign)))
                .orElseGet(() -> new Step.Level(
                        Stage.TRIM, GainMatrix.diagonal(planes, Decibels.toFactor(strip.trimDb()) * sign)));
    }

    /** The fader with all VCAs above it: what is ridden moves, the rest is added to it. */
    private Step.Gain fader(Channel channel) {
        List<Ride> rides = new ArrayList<>();
        double still = 0;
        Optional<Ride> own = channel.strip().rides().active(Strip.FADER.key());
        own.ifPresent(rides::add);
        still += own.isPresent() ? 0 : channel.strip().faderDb();
        for (Vca vca : faders.above(channel.id())) {
            Optional<Ride> ride = vca.rides().active(Strip.FADER.key());
            ride.ifPresent(rides::add);
            still += ride.isPresent() ? 0 : vca.faderDb();
        }
        return rides.isEmpty()
                ? new Step.Level(Stage.FADER, GainMatrix.diagonal(channel.planes(), Decibels.toFactor(still)))
                : new Step.Moving(Stage.FADER, new Motion.Level(rides, still, 1));
    }

    private Step.Gain placement(Channel channel, Placement placement, Rides rides) {
        Ride none = Ride.of(Curve.NONE);
        Ride position = rides.active(Placement.POSITION.key()).orElse(none);
        Ride width = rides.active(Placement.WIDTH.key()).orElse(none);
        return position.active() || width.active()
                ? new Step.Moving(
                        Stage.PLACEMENT,
                        new Motion.Placing(session.panLaw(), channel.planes(), placement, position, width))
                : new Step.Level(Stage.PLACEMENT, GainMatrix.of(placement.gains(session.panLaw(), channel.planes())));
    }

    /**
     * What may silence all that leaves a channel.
     *
     * @param open 1, or 0 while others' solo silences it
     */
    private Step.Gain gate(Channel channel, double open, int planes) {
        List<Ride> mutes = new ArrayList<>();
        boolean muted = false;
        Optional<Ride> own = channel.strip().rides().active(Strip.MUTED.key());
        own.ifPresent(mutes::add);
        muted |= own.isEmpty() && channel.strip().muted();
        for (Vca vca : faders.above(channel.id())) {
            Optional<Ride> ride = vca.rides().active(Strip.MUTED.key());
            ride.ifPresent(mutes::add);
            muted |= ride.isEmpty() && vca.muted();
        }
        double still = muted ? 0 : open;
        return mutes.isEmpty()
                ? new Step.Level(Stage.OUTPUT, GainMatrix.diagonal(planes, still))
                : new Step.Moving(Stage.OUTPUT, new Motion.Gate(mutes, false, still));
    }

    private List<Branch> branches(Channel channel, double open) {
        List<Branch> branches = new ArrayList<>();
        List<Send> sends = channel.strip().sends();
        for (int i = 0; i < sends.size(); i++) {
            Send send = sends.get(i);
            if (send.connects()) {
                branches.add(
                        new Branch(i, send, send.preFader() ? Stage.TRIM : Stage.FADER, steps(channel, send, open)));
            }
        }
        return branches;
    }

    private List<Step.Gain> steps(Channel channel, Send send, double open) {
        List<Step.Gain> steps = new ArrayList<>();
        int planes = channel.planes();
        steps.add(send.rides()
                .active(Send.LEVEL.key())
                .<Step.Gain>map(ride -> new Step.Moving(Stage.FADER, new Motion.Level(List.of(ride), 0, 1)))
                .orElseGet(() ->
                        new Step.Level(Stage.FADER, GainMatrix.diagonal(planes, Decibels.toFactor(send.levelDb())))));
        send.rides()
                .active(Send.ON.key())
                .ifPresent(ride -> steps.add(new Step.Moving(Stage.FADER, new Motion.Gate(List.of(ride), true, 1))));
        steps.add(
                send.placement().isPresent()
                        ? placement(channel, send.placement().get(), send.rides())
                        : placement(
                                channel,
                                channel.strip().placement(),
                                channel.strip().rides()));
        switch (send.target()) {
            case Send.ToBus _ -> steps.add(gate(channel, open, 2));
            // What only listens goes on listening while others are soloed; before the fader also while the channel is
            // muted.
            case Send.ToKey _ -> {
                if (!send.preFader()) {
                    steps.add(gate(channel, 1, 2));
                }
            }
        }
        return steps;
    }
}
