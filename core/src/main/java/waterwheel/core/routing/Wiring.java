package waterwheel.core.routing;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Deque;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;

/**
 * Who is connected to whom in one session, looked up once for all channels. Walks visit each channel once, so that their
 * time grows with channels and connections, however many ways there are. Immutable.
 */
public final class Wiring {
    private final Map<ChannelId, List<ChannelId>> after = new LinkedHashMap<>();
    private final Map<ChannelId, List<ChannelId>> before = new LinkedHashMap<>();

    private Wiring(Session session) {
        for (Channel channel : session.channels()) {
            after.put(channel.id(), new ArrayList<>());
            before.put(channel.id(), new ArrayList<>());
        }
    }

    /** Every connection that a channel can be heard through: output, extra outputs, sends to buses, taps. */
    public static Wiring heard(Session session) {
        return of(session, channel -> true, send -> send.target() instanceof Send.ToBus, true);
    }

    /** The connections of {@link #heard} that are on. A cue is part of no bus. */
    public static Wiring open(Session session) {
        return of(session, channel -> !channel.cue(), Wiring::mixes, true);
    }

    /** The connections of {@link #open} that mix channels: not taps, which make a signal that is a track's own. */
    public static Wiring mixed(Session session) {
        return of(session, channel -> !channel.cue(), Wiring::mixes, false);
    }

    /** The connections for which one channel must be computed before another: those of {@link #heard}, and keys. */
    public static Wiring computed(Session session) {
        return of(session, channel -> true, send -> true, true);
    }

    private static boolean mixes(Send send) {
        return send.connects() && send.target() instanceof Send.ToBus;
    }

    private static Wiring of(Session session, Predicate<Channel> leading, Predicate<Send> counting, boolean taps) {
        Wiring wiring = new Wiring(session);
        for (Channel channel : session.channels()) {
            if (leading.test(channel)) {
                Connections.outputs(channel).forEach(bus -> wiring.connect(channel.id(), bus));
                channel.strip().sends().stream()
                        .filter(counting)
                        .forEach(send ->
                                wiring.connect(channel.id(), send.target().channel()));
            }
        }
        for (Track track : taps ? session.tracks() : List.<Track>of()) {
            track.tap().ifPresent(tap -> wiring.connect(tap.channel(), track.id()));
        }
        return wiring;
    }

    private void connect(ChannelId from, ChannelId to) {
        after.computeIfAbsent(from, id -> new ArrayList<>()).add(to);
        before.computeIfAbsent(to, id -> new ArrayList<>()).add(from);
    }

    /** The channels that one leads to directly; one stands as often as there are connections to it. */
    public List<ChannelId> after(ChannelId id) {
        return after.getOrDefault(id, List.of());
    }

    /** The channels that lead to one directly, likewise. */
    public List<ChannelId> before(ChannelId id) {
        return before.getOrDefault(id, List.of());
    }

    /** Some channels with all that they lead to. */
    public Set<ChannelId> downstream(Collection<ChannelId> from) {
        return walked(from, after);
    }

    /** Some channels with all that lead to them. */
    public Set<ChannelId> upstream(Collection<ChannelId> to) {
        return walked(to, before);
    }

    private static Set<ChannelId> walked(Collection<ChannelId> from, Map<ChannelId, List<ChannelId>> next) {
        Set<ChannelId> found = new LinkedHashSet<>(from);
        Deque<ChannelId> open = new ArrayDeque<>(from);
        while (!open.isEmpty()) {
            for (ChannelId id : next.getOrDefault(open.remove(), List.of())) {
                if (found.add(id)) {
                    open.add(id);
                }
            }
        }
        return found;
    }
}
