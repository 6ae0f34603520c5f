package waterwheel.core.printing;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import waterwheel.core.edit.Edits;
import waterwheel.core.edit.Groups;
import waterwheel.core.inserts.Insert;
import waterwheel.core.path.ChannelPath;
import waterwheel.core.path.ChannelPaths;
import waterwheel.core.path.GainMatrix;
import waterwheel.core.path.Step;
import waterwheel.core.rides.Ride;
import waterwheel.core.rides.Rides;
import waterwheel.core.routing.Faders;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ClipRides;
import waterwheel.core.session.Feed;
import waterwheel.core.session.Placement;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Switches;
import waterwheel.core.session.Tap;
import waterwheel.core.session.Track;
import waterwheel.core.session.Vca;
import waterwheel.core.units.Decibels;

/**
 * The track that stands in for a printed channel: what is in the print is at rest on it, all else is the channel's. Says
 * what of the mix cannot stay the same.
 */
public final class StandIn {
    private static final double SAME_DB = 1e-9;

    private final Session session;
    private final PrintOrder order;
    private final Channel channel;
    private final Strip strip;
    private final ChannelPath path;
    private final List<String> changes = new ArrayList<>();
    private final Track track;

    private StandIn(Session session, PrintOrder order) {
        this.session = session;
        this.order = order;
        channel = session.channel(order.channel());
        // What clips say of the channel's controls is the channel's from now on.
        strip = ClipRides.laid(session).channel(order.channel()).strip();
        path = ChannelPaths.of(Edits.clearSolos().apply(session)).path(channel.withStrip(strip));
        track = track();
        tellOfGroups();
        tellOfTaps();
        if (order.keepSource()) {
            changes.add("It sounds beside its source: twice.");
        }
    }

    /** What stands in for a channel of a session; nothing is rendered. */
    public static StandIn of(Session session, PrintOrder order) {
        return new StandIn(session, order);
    }

    /** What of the mix changes, a sentence each; empty where it stays the same. */
    public List<String> changes() {
        return List.copyOf(changes);
    }

    /** The track, of the channel's id, without its clip. */
    Track bare() {
        return track;
    }

    private boolean holds(Upto part) {
        return order.upto().holds(part);
    }

    private Track track() {
        Rides rides = strip.rides().without(Strip.TRIM.key());
        if (holds(Upto.FADER)) {
            rides = rides.without(Strip.FADER.key());
        }
        if (holds(Upto.PLACEMENT)) {
            rides = rides.without(Placement.POSITION.key()).without(Placement.WIDTH.key());
        }
        if (holds(Upto.MUTE)) {
            rides = rides.without(Strip.MUTED.key());
        }
        boolean muted = !holds(Upto.MUTE) && strip.muted();
        Strip printed = strip.withFreeze(Optional.empty())
                .withInserts(behind())
                .withPolarityInverted(false)
                .withTrimDb(0)
                .withFaderDb(holds(Upto.FADER) ? 0 : strip.faderDb())
                .withPlacement(holds(Upto.PLACEMENT) ? Placement.CENTRE : strip.placement())
                .with(new Switches(muted, strip.soloed(), strip.soloSafe()))
                .withRides(rides)
                .withSends(sends());
        int planes = holds(Upto.PLACEMENT) ? 2 : channel.planes();
        Track like = channel instanceof Track of
                ? of
                : new Track(channel.id(), order.name(), Track.Kind.SUSTAINED, planes, List.of(), printed);
        return like.withName(order.name())
                .withPlanes(planes)
                .withFeed(Feed.none())
                .withStrip(printed);
    }

    /** The slots that are not in the print. */
    private List<Insert> behind() {
        List<Insert> inserts = strip.inserts();
        if (order.upto() != Upto.SLOT) {
            return List.of();
        }
        int last = order.through()
                .map(slot -> inserts.stream().map(Insert::id).toList().indexOf(slot))
                .orElse(-1);
        return inserts.subList(last + 1, inserts.size());
    }

    /** By how much the fader with its VCAs changes the level, in dB; empty where it moves. */
    private OptionalDouble faderDb() {
        return path.fader() instanceof Step.Level level
                ? OptionalDouble.of(Decibels.ofFactor(level.gain().gain(0, 0)))
                : OptionalDouble.empty();
    }

    /** Whether the placement leaves a stereo channel as it is. */
    private boolean placedAsItIs() {
        return path.placement() instanceof Step.Level level
                && level.gain().fromPlanes() == 2
                && level.gain().equals(GainMatrix.diagonal(2, 1));
    }

    private List<Send> sends() {
        if (!order.sends()) {
            strip.sends().stream()
                    .filter(Send::connects)
                    .forEach(send -> changes.add("Its send to " + target(send) + " is left out."));
            return List.of();
        }
        return strip.sends().stream().map(this::send).toList();
    }

    private String target(Send send) {
        return session.channel(send.target().channel()).name();
    }

    private Send send(Send send) {
        if (!send.connects()) {
            return send;
        }
        if (holds(Upto.PLACEMENT) && send.placement().isPresent() && !placedAsItIs()) {
            changes.add("Its send to " + target(send) + " has a position of its own, and gets the placed signal now.");
        }
        if (holds(Upto.MUTE) && send.target() instanceof Send.ToKey && send.preFader() && mutes()) {
            changes.add("Its send to " + target(send) + " went on while it was muted, and does no more.");
        }
        return holds(Upto.FADER) && send.preFader() ? levelled(send) : send;
    }

    private boolean mutes() {
        return !(path.output() instanceof Step.Level level) || level.gain().silent();
    }

    /** A pre-fader send of a signal that has the fader in it: as much louder or softer. */
    private Send levelled(Send send) {
        OptionalDouble fader = faderDb();
        if (fader.isEmpty() || !Double.isFinite(fader.getAsDouble())) {
            changes.add("Its send to " + target(send) + " is taken before the fader, which "
                    + (fader.isEmpty() ? "moves" : "is closed") + ": it follows the fader now.");
            return send;
        }
        double db = fader.getAsDouble();
        double wanted = send.standingDb() - db;
        Optional<Ride> ride = send.rides().active(Send.LEVEL.key());
        boolean fits =
                ride.map(one -> Math.abs(one.offset() - db) <= Ride.MOST_OFFSET).orElse(wanted <= Strip.FADER_TOP_DB);
        if (!fits) {
            changes.add("Its send to " + target(send) + " would have to be turned up past +12 dB, and gets softer.");
        }
        return Math.abs(db) < SAME_DB
                ? send
                : send.withStandingDb(ride.isPresent() ? wanted : Math.min(wanted, Strip.FADER_TOP_DB));
    }

    private void tellOfGroups() {
        List<Vca> above = Faders.of(session).above(channel.id());
        boolean leaves = holds(Upto.FADER) || !order.groups();
        if (above.isEmpty() || !leaves) {
            return;
        }
        ChannelPath without = ChannelPaths.of(
                        Groups.withoutVcas(Edits.clearSolos().apply(session), channel.id()))
                .path(channel.withStrip(strip));
        boolean fader = !holds(Upto.FADER) && !without.fader().equals(path.fader());
        boolean mute = !holds(Upto.MUTE) && !without.output().equals(path.output());
        if (fader || mute) {
            changes.add("No VCA " + (fader && mute ? "moves or mutes" : fader ? "moves" : "mutes") + " it any more ("
                    + String.join(", ", above.stream().map(Vca::name).toList()) + ").");
        }
    }

    private void tellOfTaps() {
        if (order.keepSource()) {
            return;
        }
        for (Track one : session.tracks()) {
            Tap tap = one.tap().filter(t -> t.channel().equals(channel.id())).orElse(null);
            if (tap == null) {
                continue;
            }
            boolean faded = holds(Upto.FADER)
                    && tap.point() == Tap.Point.PRE_FADER
                    && !(faderDb().isPresent() && Math.abs(faderDb().getAsDouble()) < SAME_DB);
            boolean placed = holds(Upto.PLACEMENT) && !placedAsItIs();
            if (faded || placed) {
                changes.add(one.name() + " takes its signal from it, and gets it "
                        + (placed ? "placed" : "behind the fader") + " now.");
            }
        }
    }
}
