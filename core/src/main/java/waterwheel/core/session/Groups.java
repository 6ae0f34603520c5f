package waterwheel.core.session;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;

/** What VCAs, link groups and named stems of a session hold must be there, once. */
final class Groups {
    private Groups() {}

    /**
     * Checks the groups of a session.
     *
     * @throws IllegalArgumentException at the first whose id is taken or whose member is not there, and if a VCA is above
     *     itself
     */
    static void check(List<Channel> channels, List<Vca> vcas, List<LinkGroup> links, StemDivision stems) {
        checkVcas(channels, vcas);
        checkGroups(channels, vcas, links, stems);
    }

    /** Members must be there, and no VCA may be above itself. */
    private static void checkVcas(List<Channel> channels, List<Vca> vcas) {
        Set<ChannelId> ids = new HashSet<>();
        channels.forEach(channel -> ids.add(channel.id()));
        for (Vca vca : vcas) {
            if (!ids.add(vca.id())) {
                throw new IllegalArgumentException("vcas: '" + vca.id() + "' twice (expected: unique ids)");
            }
        }
        for (Vca vca : vcas) {
            for (ChannelId member : vca.members()) {
                if (!ids.contains(member)) {
                    throw new IllegalArgumentException(
                            "members of '" + vca.id() + "': '" + member + "' (expected: the id of a channel or a VCA)");
                }
            }
        }
        aboveItself(vcas).ifPresent(id -> {
            throw new IllegalArgumentException("members of '" + id + "': itself (expected: no VCA above itself)");
        });
    }

    private static void checkGroups(List<Channel> channels, List<Vca> vcas, List<LinkGroup> links, StemDivision stems) {
        Set<ChannelId> all = new HashSet<>();
        channels.forEach(channel -> all.add(channel.id()));
        Set<ChannelId> taken = new HashSet<>(all);
        vcas.forEach(vca -> taken.add(vca.id()));
        links.forEach(link -> checkGroup("links", link.id(), link.members(), all, taken));
        stems.named().forEach(stem -> checkGroup("stems", stem.id(), stem.members(), all, taken));
    }

    private static void checkGroup(
            String what, ChannelId id, List<ChannelId> members, Set<ChannelId> all, Set<ChannelId> taken) {
        if (!taken.add(id)) {
            throw new IllegalArgumentException(what + ": '" + id + "' twice (expected: unique ids)");
        }
        for (ChannelId member : members) {
            if (!all.contains(member)) {
                throw new IllegalArgumentException(
                        "members of '" + id + "': '" + member + "' (expected: the id of a channel)");
            }
        }
    }

    /** A VCA that is part of a circle: one that is left where those without a VCA above them are taken away in turn. */
    private static Optional<ChannelId> aboveItself(List<Vca> vcas) {
        Map<ChannelId, Integer> above = new LinkedHashMap<>();
        vcas.forEach(vca -> above.put(vca.id(), 0));
        for (Vca vca : vcas) {
            Set.copyOf(vca.members()).forEach(member -> above.computeIfPresent(member, (id, count) -> count + 1));
        }
        Deque<Vca> free = new ArrayDeque<>();
        vcas.stream().filter(vca -> Objects.equals(above.get(vca.id()), 0)).forEach(free::add);
        while (!free.isEmpty()) {
            Vca vca = free.remove();
            above.remove(vca.id());
            for (ChannelId member : Set.copyOf(vca.members())) {
                Integer left = above.computeIfPresent(member, (id, count) -> count - 1);
                if (left != null && left == 0) {
                    IdList.find(vcas, member, Vca::id).ifPresent(free::add);
                }
            }
        }
        return above.keySet().stream().findFirst();
    }
}
