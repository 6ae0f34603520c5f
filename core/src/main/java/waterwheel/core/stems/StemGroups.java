package waterwheel.core.stems;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import waterwheel.core.routing.Connections;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.NamedStem;
import waterwheel.core.session.Output;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.StemDivision;
import waterwheel.core.session.Track;

/** What the stems of a session are made of. Every track of the mix is in just one of them, and so is every return. */
public final class StemGroups {
    private final Session session;
    private final StemDivision division;
    /** By channel the stem that it was put into by hand. */
    private final Map<ChannelId, NamedStem> byHand = new HashMap<>();

    private StemGroups(Session session, StemDivision division) {
        this.session = session;
        this.division = division;
        if (division.by() == StemDivision.By.NAMED) {
            for (NamedStem stem : division.named()) {
                stem.members().forEach(member -> byHand.putIfAbsent(member, stem));
            }
        }
    }

    /** What the stems of a session are called, in its order, cues among them. */
    public static List<String> names(Session session, StemDivision division) {
        return of(session, division).stream().map(StemGroup::name).toList();
    }

    /** The stems of a session, in its order; those put together by hand first, in theirs. */
    static List<StemGroup> of(Session session, StemDivision division) {
        return new StemGroups(session, division).groups();
    }

    private List<StemGroup> groups() {
        Set<ChannelId> returns = returns(session);
        Set<ChannelId> apart = returns.stream()
                .filter(id -> division.returnsApart() || byHand.containsKey(id))
                .collect(Collectors.toCollection(LinkedHashSet::new));
        Map<ChannelId, Set<ChannelId>> members = new LinkedHashMap<>();
        if (division.by() == StemDivision.By.NAMED) {
            division.named().forEach(stem -> members.put(stem.id(), new LinkedHashSet<>()));
        }
        session.channels().forEach(channel -> members.put(channel.id(), new LinkedHashSet<>()));
        for (Track track : session.tracks()) {
            members.getOrDefault(stem(track), new LinkedHashSet<>()).add(track.id());
        }
        for (ChannelId id : apart) {
            NamedStem stem = byHand.get(id);
            members.getOrDefault(stem == null ? id : stem.id(), new LinkedHashSet<>())
                    .add(id);
        }
        List<StemGroup> groups = new ArrayList<>();
        members.forEach((id, all) -> {
            if (!all.isEmpty()) {
                groups.add(group(id, all, apart));
            }
        });
        return groups;
    }

    private StemGroup group(ChannelId id, Set<ChannelId> all, Set<ChannelId> apart) {
        Set<ChannelId> tracks = new HashSet<>(all);
        tracks.removeAll(apart);
        Set<ChannelId> own = new HashSet<>(all);
        own.retainAll(apart);
        Set<ChannelId> others = new HashSet<>(apart);
        others.removeAll(own);
        String name = division.name(session, id).orElseThrow();
        boolean cue = session.find(id).filter(Channel::cue).isPresent();
        return new StemGroup(id, name, tracks, own, others, cue);
    }

    /** The stem that a track is in: by hand the nearest on its way, else itself or the last bus before the main bus. */
    private ChannelId stem(Track track) {
        if (track.cue() || division.by() == StemDivision.By.TRACKS) {
            return track.id();
        }
        Channel at = track;
        while (true) {
            NamedStem stem = byHand.get(at.id());
            if (stem != null) {
                return stem.id();
            }
            if (at.strip().output() instanceof Output.ToBus(ChannelId next)
                    && !next.equals(session.mainId())
                    && session.channel(next) instanceof Bus bus) {
                at = bus;
            } else {
                return division.by() == StemDivision.By.BUSES ? at.id() : track.id();
            }
        }
    }

    /** Buses that sends reach, and that nothing else feeds but the outputs of such buses; in the session's order. */
    static Set<ChannelId> returns(Session session) {
        Set<ChannelId> returns = session.channels().stream()
                .flatMap(channel -> channel.strip().sends().stream())
                .filter(Send::connects)
                .map(Send::target)
                .filter(Send.ToBus.class::isInstance)
                .map(Send.Target::channel)
                .collect(Collectors.toCollection(HashSet::new));
        boolean changed = true;
        while (changed) {
            changed = false;
            for (Channel channel : session.channels()) {
                if (!returns.contains(channel.id())) {
                    changed |= returns.removeAll(Set.copyOf(Connections.outputs(channel)));
                }
            }
        }
        return session.buses().stream()
                .map(Bus::id)
                .filter(returns::contains)
                .collect(Collectors.toCollection(LinkedHashSet::new));
    }
}
