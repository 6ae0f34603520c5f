package waterwheel.desktop.flow;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.function.DoubleConsumer;
import waterwheel.core.routing.RenderOrder;
import waterwheel.core.routing.Wiring;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Output;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.desktop.flow.FlowMap.Card;
import waterwheel.desktop.flow.FlowMap.Kind;
import waterwheel.desktop.flow.FlowMap.Lane;
import waterwheel.desktop.flow.FlowMap.Link;

/**
 * Lays a map out, column by column from the left: a layered drawing with a place of its own for every link that passes a
 * layer (Sugiyama, Tagawa, Toda, Methods for visual understanding of hierarchical system structures, 1981).
 */
final class FlowLayout {
    /** Rows that a bus takes, so that its figures fit. */
    private static final double BUS_ROWS = 2;

    private static final double LANE_ROWS = 1;
    /** The upper edge of row 0. */
    private static final double TOP = -0.5;

    private final Session session;
    private final Wiring wiring;
    private final Set<ChannelId> folded;
    private final String filter;
    private final Map<ChannelId, Card> placed = new LinkedHashMap<>();
    private final Map<ChannelId, Card> foldedCards = new LinkedHashMap<>();
    /** The folded card that a track is part of. */
    private final Map<ChannelId, ChannelId> foldedInto = new HashMap<>();

    private final Map<ChannelId, Integer> columns = new HashMap<>();
    private final List<Lane> lanes = new ArrayList<>();

    FlowLayout(Session session, Set<ChannelId> folded, String filter) {
        this.session = session;
        wiring = Wiring.heard(session);
        this.folded = folded;
        this.filter = filter;
    }

    FlowMap run() {
        double rows = placeTracks();
        List<Bus> buses = ordered();
        for (Bus bus : buses) {
            columns.put(bus.id(), column(bus));
        }
        int last = Math.max(
                1, columns.values().stream().mapToInt(Integer::intValue).max().orElse(1));
        columns.put(session.mainId(), last);
        List<Link> links = links();
        for (int column = 1; column <= last; column++) {
            rows = Math.max(rows, place(buses, links, column));
        }
        List<Card> cards = new ArrayList<>(placed.values());
        cards.addAll(foldedCards.values());
        return new FlowMap(cards, links, lanes, last + 1, rows);
    }

    /** Tracks stand by the bus that they feed, so that their links do not cross more than they must. */
    private double placeTracks() {
        Map<ChannelId, List<Track>> byBus = new LinkedHashMap<>();
        session.buses().forEach(bus -> byBus.put(bus.id(), new ArrayList<>()));
        List<Track> apart = new ArrayList<>();
        for (Track track : session.tracks()) {
            if (!track.name().toLowerCase(Locale.ROOT).contains(filter)) {
                continue;
            }
            if (track.strip().output() instanceof Output.ToBus(ChannelId bus) && !track.cue()) {
                byBus.computeIfAbsent(bus, id -> new ArrayList<>()).add(track);
            } else {
                apart.add(track);
            }
        }
        double row = 0;
        for (Map.Entry<ChannelId, List<Track>> group : byBus.entrySet()) {
            ChannelId bus = group.getKey();
            List<Track> tracks = group.getValue();
            if (!tracks.isEmpty() && folded.contains(bus)) {
                foldedCards.put(
                        bus,
                        new Card(
                                bus,
                                0,
                                row + 0.5,
                                tracks.stream().map(Track::id).toList()));
                tracks.forEach(track -> foldedInto.put(track.id(), bus));
                row += BUS_ROWS;
            } else {
                for (Track track : tracks) {
                    placed.put(track.id(), new Card(track.id(), 0, row, List.of()));
                    row++;
                }
            }
        }
        for (Track track : apart) {
            placed.put(track.id(), new Card(track.id(), 0, row, List.of()));
            row++;
        }
        return row;
    }

    /** Buses after all that feed them; the main bus last. */
    private List<Bus> ordered() {
        List<Bus> buses = new ArrayList<>();
        if (RenderOrder.of(session) instanceof RenderOrder.Ordered(List<ChannelId> order)) {
            for (ChannelId id : order) {
                if (session.channel(id) instanceof Bus bus && !id.equals(session.mainId())) {
                    buses.add(bus);
                }
            }
        }
        buses.add(session.main());
        return buses;
    }

    private int column(Bus bus) {
        int behind = 1;
        for (ChannelId input : wiring.before(bus.id())) {
            if (session.channel(input) instanceof Bus) {
                behind = Math.max(behind, columns.getOrDefault(input, 1) + 1);
            }
        }
        return behind;
    }

    private List<Link> links() {
        // Many folded tracks may send to the same return: that is one link.
        Set<Link> links = new LinkedHashSet<>();
        foldedCards.keySet().forEach(bus -> links.add(new Link(bus, bus, Kind.OUTPUT, true)));
        for (Channel channel : session.channels()) {
            ChannelId group = foldedInto.get(channel.id());
            boolean bus = columns.containsKey(channel.id());
            if (channel.cue() || (group == null && !bus && !placed.containsKey(channel.id()))) {
                continue;
            }
            ChannelId from = group == null ? channel.id() : group;
            boolean many = group != null;
            if (!many && channel.strip().output() instanceof Output.ToBus(ChannelId to)) {
                links.add(new Link(from, to, Kind.OUTPUT, false));
            }
            wiring.after(channel.id()).stream()
                    .filter(to -> session.channel(to) instanceof Track && placed.containsKey(to))
                    .forEach(track -> links.add(new Link(from, track, Kind.TAP, many)));
            channel.strip().extraOutputs().forEach(to -> links.add(new Link(from, to, Kind.EXTRA_OUTPUT, many)));
            for (Send send : channel.strip().sends()) {
                ChannelId to = send.target().channel();
                Kind kind = send.target() instanceof Send.ToKey ? Kind.KEY : Kind.SEND;
                if (placed.containsKey(to) || columns.containsKey(to)) {
                    links.add(new Link(from, to, kind, many));
                }
            }
        }
        return List.copyOf(links);
    }

    /**
     * What takes room in a column: a bus, or links on their way to one.
     *
     * @param wanted the row that it would have alone
     * @param rows how many it takes
     * @param placing takes the row that it gets
     */
    private record Item(double wanted, double rows, DoubleConsumer placing) {}

    /** Places what stands in a column and what passes it. */
    private double place(List<Bus> buses, List<Link> links, int column) {
        List<Item> items = new ArrayList<>();
        for (Bus bus : buses) {
            if (columns.getOrDefault(bus.id(), 1) == column) {
                items.add(new Item(
                        middle(bus, links),
                        BUS_ROWS,
                        row -> placed.put(bus.id(), new Card(bus.id(), column, row, List.of()))));
            }
        }
        items.addAll(passing(links, column));
        items.sort(Comparator.comparingDouble(Item::wanted));
        double[] rows = apart(items);
        double bottom = TOP;
        for (int i = 0; i < rows.length; i++) {
            items.get(i).placing().accept(rows[i]);
            bottom = rows[i] + items.get(i).rows() / 2;
        }
        return bottom - TOP;
    }

    /** As high as the middle of its inputs. */
    private double middle(Bus bus, List<Link> links) {
        return links.stream()
                .filter(link -> link.to().equals(bus.id()) && link.kind() != Kind.KEY)
                .mapToDouble(link -> start(link).row())
                .average()
                .orElse(0);
    }

    /** The lanes that a column needs, each as high as the middle of what comes into it. */
    private List<Item> passing(List<Link> links, int column) {
        Map<Lane, List<Double>> coming = new LinkedHashMap<>();
        for (Link link : links) {
            Integer end = columns.get(link.to());
            int begin = begin(link);
            if (end != null && begin < column && end > column) {
                coming.computeIfAbsent(
                                new Lane(link.to(), link.kind() == Kind.SEND, column, 0), lane -> new ArrayList<>())
                        .add(begin == column - 1 ? start(link).row() : rowBefore(link, column));
            }
        }
        List<Item> items = new ArrayList<>();
        coming.forEach((lane, rows) -> items.add(new Item(
                rows.stream().mapToDouble(Double::doubleValue).average().orElse(0),
                LANE_ROWS,
                row -> lanes.add(new Lane(lane.to(), lane.sends(), column, row)))));
        return items;
    }

    private double rowBefore(Link link, int column) {
        return lanes.stream()
                .filter(lane -> link.passesWith(lane) && lane.column() == column - 1)
                .mapToDouble(Lane::row)
                .findFirst()
                .orElse(0);
    }

    /** The column in which a link begins; tracks, folded or not, stand in the first. */
    private int begin(Link link) {
        return link.folded() ? 0 : columns.getOrDefault(link.from(), 0);
    }

    private Card start(Link link) {
        Card card = link.folded() ? foldedCards.get(link.from()) : placed.get(link.from());
        return card == null ? new Card(link.from(), 0, 0, List.of()) : card;
    }

    /**
     * Rows as near as possible to the wanted ones without overlap, in their order: least squares under that condition,
     * by pooling neighbours that would overlap (Barlow and others, Statistical inference under order restrictions, 1972).
     */
    private static double[] apart(List<Item> items) {
        double[] offsets = new double[items.size()];
        double[] sums = new double[items.size()];
        int[] sizes = new int[items.size()];
        int pools = 0;
        for (int i = 0; i < offsets.length; i++) {
            offsets[i] = i == 0
                    ? TOP + items.get(0).rows() / 2
                    : offsets[i - 1] + (items.get(i - 1).rows() + items.get(i).rows()) / 2;
            sums[pools] = items.get(i).wanted() - offsets[i];
            sizes[pools] = 1;
            pools++;
            while (pools > 1 && sums[pools - 2] / sizes[pools - 2] > sums[pools - 1] / sizes[pools - 1]) {
                pools--;
                sums[pools - 1] += sums[pools];
                sizes[pools - 1] += sizes[pools];
            }
        }
        double[] rows = new double[offsets.length];
        int i = 0;
        for (int pool = 0; pool < pools; pool++) {
            // Nothing stands above the upper edge.
            double shift = Math.max(0, sums[pool] / sizes[pool]);
            for (int k = 0; k < sizes[pool]; k++, i++) {
                rows[i] = offsets[i] + shift;
            }
        }
        return rows;
    }
}
