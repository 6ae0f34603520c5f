package waterwheel.core.intake;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import waterwheel.core.edit.Edit;
import waterwheel.core.edit.FlowEdits;
import waterwheel.core.routing.Connections;
import waterwheel.core.routing.RenderOrder;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Output;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;

/**
 * Submix buses for the tracks that feed the main bus directly: proposed from their names and kinds, then changed as the
 * engineer wants them, then made in one step. A bus that the session has already by that name is not made again, but fed.
 *
 * @param groups the buses; one that others lie in comes before them
 * @param loose tracks that stay on the main bus, in the session's order
 */
public record BusPlan(List<Group> groups, List<ChannelId> loose) {
    /**
     * A bus that is proposed.
     *
     * @param name as it is to be called
     * @param within the place of the bus that this one feeds, below its own; empty where it feeds the main bus
     * @param made whether it is to be made; where not, what feeds it feeds what it would feed
     * @param tracks that feed it, in the session's order
     */
    public record Group(String name, OptionalInt within, boolean made, List<ChannelId> tracks) {
        public Group {
            tracks = List.copyOf(tracks);
        }

        Group withTracks(List<ChannelId> other) {
            return new Group(name, within, made, other);
        }
    }

    public BusPlan {
        groups = List.copyOf(groups);
        loose = List.copyOf(loose);
        for (int i = 0; i < groups.size(); i++) {
            OptionalInt within = groups.get(i).within();
            if (within.isPresent() && (within.getAsInt() < 0 || within.getAsInt() >= i)) {
                throw new IllegalArgumentException("A bus lies in one that comes before it.");
            }
        }
    }

    /**
     * What is proposed for a session: a bus for each family with two tracks or more, or with one where the session has its
     * bus already, and one around two families that belong together; no groups where every track has its bus.
     */
    public static BusPlan of(Session session) {
        List<Track> free = session.tracks().stream()
                .filter(track -> !track.cue() && track.strip().output().equals(Output.to(session.mainId())))
                .toList();
        Map<Family, List<ChannelId>> found = new EnumMap<>(Family.class);
        for (Track track : free) {
            Family.of(track).ifPresent(family -> found.computeIfAbsent(family, any -> new ArrayList<>())
                    .add(track.id()));
        }
        List<Group> groups = new Draft(session, found).groups();
        Set<ChannelId> grouped = new HashSet<>();
        groups.forEach(group -> grouped.addAll(group.tracks()));
        List<ChannelId> loose =
                free.stream().map(Track::id).filter(id -> !grouped.contains(id)).toList();
        return new BusPlan(groups, loose);
    }

    /**
     * The session's own bus of a name, which a group of that name joins; none that only sends feed, for those are returns.
     */
    public static Optional<Bus> joined(Session session, String name) {
        return session.buses().stream()
                .filter(bus -> !bus.id().equals(session.mainId()))
                .filter(bus -> bus.name().strip().equalsIgnoreCase(name.strip()))
                .filter(bus -> Connections.sendingTo(session, bus.id()).isEmpty()
                        || !Connections.feeding(session, bus.id()).isEmpty())
                .findFirst();
    }

    private static List<ChannelId> inOrder(Session session, List<ChannelId> tracks) {
        return session.tracks().stream()
                .map(Channel::id)
                .filter(tracks::contains)
                .toList();
    }

    /** Puts families together to groups; one alone makes none. */
    private record Draft(Session session, Map<Family, List<ChannelId>> found) {
        List<Group> groups() {
            List<Group> groups = new ArrayList<>();
            Map<Family.Larger, OptionalInt> around = new EnumMap<>(Family.Larger.class);
            found.forEach((family, tracks) -> {
                Optional<Family.Larger> larger = family.larger().filter(this::hasBoth);
                larger.filter(one -> !around.containsKey(one)).ifPresent(one -> {
                    around.put(one, OptionalInt.of(groups.size()));
                    groups.add(new Group(one.bus(), OptionalInt.empty(), true, alone(one)));
                });
                if (tracks.size() > 1 || joined(session, name(family)).isPresent()) {
                    OptionalInt within = larger.map(around::get).orElse(OptionalInt.empty());
                    groups.add(new Group(name(family), within, true, tracks));
                }
            });
            return groups;
        }

        /** Tracks that are the only ones of their family: they feed the bus around it. */
        private List<ChannelId> alone(Family.Larger larger) {
            return familiesIn(larger)
                    .map(found::get)
                    .filter(tracks -> tracks.size() == 1)
                    .flatMap(List::stream)
                    .toList();
        }

        private boolean hasBoth(Family.Larger larger) {
            return familiesIn(larger).count() == 2;
        }

        /** Those that were found, but for one whose bus is there and stays where it is. */
        private Stream<Family> familiesIn(Family.Larger larger) {
            return found.keySet().stream()
                    .filter(family -> family.larger().equals(Optional.of(larger)))
                    .filter(family -> !hasBus(family));
        }

        private boolean hasBus(Family family) {
            return joined(session, family.bus()).isPresent();
        }

        /** Where nobody leads, or nobody sings behind, there are just voices. */
        private String name(Family family) {
            return family.larger()
                    .filter(larger -> larger == Family.Larger.VOICES && !hasBoth(larger))
                    .filter(larger -> !hasBus(family))
                    .map(Family.Larger::bus)
                    .orElse(family.bus());
        }
    }

    /** With a track in another group, or loose where none is given. */
    public BusPlan withTrack(Session session, ChannelId track, OptionalInt group) {
        List<Group> changed = new ArrayList<>();
        for (int i = 0; i < groups.size(); i++) {
            List<ChannelId> tracks = new ArrayList<>(groups.get(i).tracks());
            tracks.remove(track);
            if (group.isPresent() && group.getAsInt() == i) {
                tracks.add(track);
            }
            changed.add(groups.get(i).withTracks(inOrder(session, tracks)));
        }
        List<ChannelId> free = new ArrayList<>(loose);
        free.remove(track);
        if (group.isEmpty()) {
            free.add(track);
        }
        return new BusPlan(changed, inOrder(session, free));
    }

    /** With another name for a group; a blank one changes nothing. */
    public BusPlan withName(int group, String name) {
        if (name.isBlank()) {
            return this;
        }
        Group one = groups.get(group);
        return with(group, new Group(name.strip(), one.within(), one.made(), one.tracks()));
    }

    /** With a group made or not. */
    public BusPlan withMade(int group, boolean made) {
        Group one = groups.get(group);
        return with(group, new Group(one.name(), one.within(), made, one.tracks()));
    }

    /** With one more group, empty. */
    public BusPlan withGroup(String name) {
        List<Group> more = new ArrayList<>(groups);
        more.add(new Group(name, OptionalInt.empty(), true, List.of()));
        return new BusPlan(more, loose);
    }

    private BusPlan with(int group, Group one) {
        List<Group> changed = new ArrayList<>(groups);
        changed.set(group, one);
        return new BusPlan(changed, loose);
    }

    /** How deep a group lies in others: 0 where it feeds the main bus. */
    public int depth(int group) {
        OptionalInt within = groups.get(group).within();
        return within.isEmpty() ? 0 : 1 + depth(within.getAsInt());
    }

    /** Whether a group becomes a bus: it is wanted, and something feeds it. */
    public boolean becomesBus(int group) {
        return groups.get(group).made() && isFed(group);
    }

    private boolean isFed(int group) {
        return !groups.get(group).tracks().isEmpty()
                || IntStream.range(group + 1, groups.size())
                        .anyMatch(i -> groups.get(i).within().equals(OptionalInt.of(group)) && isFed(i));
    }

    /** Makes the buses, in one step. */
    public Edit edit() {
        return new Edit("New buses", session -> {
            Session out = session;
            Map<Integer, ChannelId> made = new HashMap<>();
            for (int i = 0; i < groups.size(); i++) {
                Group group = groups.get(i);
                ChannelId target = group.within().isPresent()
                        ? made.getOrDefault(group.within().getAsInt(), out.mainId())
                        : out.mainId();
                Optional<Bus> there = joined(session, group.name());
                if (becomesBus(i) && there.isPresent()) {
                    target = there.get().id();
                } else if (becomesBus(i)) {
                    ChannelId bus = FlowEdits.freeId(out, "b");
                    out = FlowEdits.busAround(List.of(), group.name()).apply(out);
                    ChannelId feeds = target;
                    out = out.withStrip(bus, strip -> strip.withOutput(Output.to(feeds)));
                    target = bus;
                }
                made.put(i, target);
                for (ChannelId track : group.tracks()) {
                    ChannelId feeds = target;
                    Session fed = out.withStrip(track, strip -> strip.withOutput(Output.to(feeds)));
                    // One that taps the bus cannot feed it.
                    out = there.isPresent() && RenderOrder.of(fed) instanceof RenderOrder.Loop ? out : fed;
                }
            }
            return out;
        });
    }
}
