package waterwheel.core.routing;

import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;

/**
 * Which channels sound. Mute, their own or that of a VCA above them, silences all that leaves a channel. Solo is in
 * place: while any channel is soloed, a channel sounds only if it is soloed, solo-safe, feeds a soloed one, or is fed by
 * a soloed one. Being solo-safe passes nothing on, and only connections that are on count.
 */
public final class Audibility {
    private Audibility() {}

    /** The ids of the channels whose output is not silenced by a mute or by the solo of others. */
    public static Set<ChannelId> sounding(Session session) {
        Faders faders = Faders.of(session);
        return beforeMutes(session).stream()
                .filter(id -> !faders.muted(session.channel(id)))
                .collect(Collectors.toUnmodifiableSet());
    }

    /** The ids of the channels whose output is not silenced by the solo of others. */
    public static Set<ChannelId> beforeMutes(Session session) {
        List<ChannelId> soloed = session.channels().stream()
                .filter(c -> c.strip().soloed())
                .map(Channel::id)
                .toList();
        Set<ChannelId> lit = new HashSet<>();
        if (!soloed.isEmpty()) {
            Wiring wiring = Wiring.open(session);
            lit.addAll(wiring.upstream(soloed));
            lit.addAll(wiring.downstream(soloed));
        }
        return session.channels().stream()
                .filter(c -> soloed.isEmpty() || c.strip().soloSafe() || lit.contains(c.id()))
                .map(Channel::id)
                .collect(Collectors.toUnmodifiableSet());
    }
}
