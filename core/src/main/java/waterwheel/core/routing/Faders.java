package waterwheel.core.routing;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import waterwheel.core.rides.Rides;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Vca;

/**
 * Faders with the VCAs above them, looked up once for all channels of a session. A VCA counts once for a channel,
 * however many ways lead from it to the channel, and not at all for one that it leaves alone; a VCA that leaves another
 * alone does not reach further through it. Immutable.
 */
public final class Faders {
    private final Session session;
    private final Map<ChannelId, List<Vca>> holders = new HashMap<>();

    private Faders(Session session) {
        this.session = session;
        for (Vca vca : session.vcas()) {
            for (ChannelId member : new LinkedHashSet<>(vca.members())) {
                holders.computeIfAbsent(member, id -> new ArrayList<>()).add(vca);
            }
        }
    }

    /** The faders of a session. */
    public static Faders of(Session session) {
        return new Faders(session);
    }

    /** A channel's own fader and all VCAs above it, in dB; negative infinity where one of them is silent. */
    public static double effectiveDb(Session session, Channel channel) {
        return of(session).effectiveDb(channel);
    }

    /** A channel's own fader and all VCAs above it, in dB; negative infinity where one of them is silent. */
    public double effectiveDb(Channel channel) {
        double sum = channel.strip().faderDb();
        for (Vca vca : above(channel.id())) {
            sum += vca.faderDb();
        }
        return sum;
    }

    /** Whether a channel is mute all along: by its own mute, or by that of a VCA above it, where no ride moves that. */
    public boolean muted(Channel channel) {
        return muted(channel.strip().muted(), channel.strip().rides())
                || above(channel.id()).stream().anyMatch(vca -> muted(vca.muted(), vca.rides()));
    }

    private static boolean muted(boolean set, Rides rides) {
        return set && rides.active(Strip.MUTED.key()).isEmpty();
    }

    /** The VCAs that move a channel, each once. */
    public List<Vca> above(ChannelId channel) {
        if (holders.isEmpty()) {
            return List.of();
        }
        Set<Vca> found = new LinkedHashSet<>(holders.getOrDefault(channel, List.of()));
        Deque<Vca> open = new ArrayDeque<>(found);
        while (!open.isEmpty()) {
            Vca below = open.remove();
            for (Vca holder : holders.getOrDefault(below.id(), List.of())) {
                if (holder.moves(below.id()) && found.add(holder)) {
                    open.add(holder);
                }
            }
        }
        return found.stream().filter(vca -> !vca.exempt().contains(channel)).toList();
    }

    /** The channels that a VCA moves, directly or over other VCAs, each once, in the order of the members. */
    public Set<ChannelId> movedBy(Vca vca) {
        Set<ChannelId> channels = new LinkedHashSet<>();
        Set<ChannelId> seen = new HashSet<>(Set.of(vca.id()));
        Deque<ChannelId> open = new ArrayDeque<>();
        vca.members().stream().filter(vca::moves).forEach(open::add);
        while (!open.isEmpty()) {
            ChannelId member = open.remove();
            if (!seen.add(member)) {
                continue;
            }
            if (session.find(member).isPresent() && !vca.exempt().contains(member)) {
                channels.add(member);
            }
            session.findVca(member).ifPresent(below -> below.members().stream()
                    .filter(next -> session.find(next).isPresent() || below.moves(next))
                    .forEach(open::add));
        }
        return channels;
    }
}
