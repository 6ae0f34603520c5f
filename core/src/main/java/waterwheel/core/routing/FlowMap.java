package waterwheel.core.routing;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Output;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;

/**
 * Where each channel stands on a map of the session: columns from the sources at the left to the main bus at the right, a
 * bus one column behind the last of its inputs and as high as their middle. It depends on the routing alone, so a small
 * edit moves little.
 *
 * @param cards by channel, in no order
 * @param links in session order
 * @param columns how many columns there are
 * @param rows how many rows the tallest column takes
 */
public record FlowMap(List<Card> cards, List<Link> links, int columns, double rows) {
    /** Rows that a bus takes, so that its figures fit. */
    private static final double BUS_ROWS = 2;

    /**
     * A channel, or the tracks of a folded bus, on the map.
     *
     * @param id of the channel; of the bus for its folded tracks
     * @param column from 0 at the left
     * @param row of its middle, from 0 at the top
     * @param folded how many tracks the card stands for; 0 for a channel of its own
     */
    public record Card(ChannelId id, int column, double row, int folded) {}

    /** How a channel reaches another. */
    public enum Kind {
        OUTPUT,
        EXTRA_OUTPUT,
        SEND,
        KEY,
        /** A track takes its signal from the channel. */
        TAP
    }

    /**
     * A connection.
     *
     * @param folded whether it starts at the folded tracks of the bus that it leads to
     */
    public record Link(ChannelId from, ChannelId to, Kind kind, boolean folded) {}

    public FlowMap {
        cards = List.copyOf(cards);
        links = List.copyOf(links);
    }

    /**
     * Lays a session out.
     *
     * @param folded buses whose tracks are one card
     * @param filter only tracks whose names hold this text are shown; empty for all
     */
    public static FlowMap of(Session session, Set<ChannelId> folded, String filter) {
        return new Layout(session, folded, filter.strip().toLowerCase(Locale.ROOT)).run();
    }

    private static final class Layout {
        private final Session session;
        private final Set<ChannelId> folded;
        private final String filter;
        private final Map<ChannelId, Card> placed = new LinkedHashMap<>();
        private final Map<ChannelId, Card> foldedCards = new LinkedHashMap<>();
        private final Map<ChannelId, Integer> columns = new HashMap<>();

        Layout(Session session, Set<ChannelId> folded, String filter) {
            this.session = session;
            this.folded = folded;
            this.filter = filter;
        }

        FlowMap run() {
            double rows = placeTracks();
            List<Bus> buses = ordered();
            for (Bus bus : buses) {
                columns.put(bus.id(), column(bus));
            }
            int last =
                    columns.values().stream().mapToInt(Integer::intValue).max().orElse(1);
            columns.put(session.mainId(), Math.max(last, 1));
            for (int column = 1; column <= Math.max(last, 1); column++) {
                rows = Math.max(rows, placeBuses(buses, column));
            }
            List<Card> cards = new ArrayList<>(placed.values());
            cards.addAll(foldedCards.values());
            return new FlowMap(cards, links(), Math.max(last, 1) + 1, rows);
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
                if (group.getValue().isEmpty()) {
                    continue;
                }
                if (folded.contains(group.getKey())) {
                    foldedCards.put(
                            group.getKey(),
                            new Card(
                                    group.getKey(),
                                    0,
                                    row + 0.5,
                                    group.getValue().size()));
                    row += BUS_ROWS;
                } else {
                    for (Track track : group.getValue()) {
                        placed.put(track.id(), new Card(track.id(), 0, row, 0));
                        row++;
                    }
                }
            }
            for (Track track : apart) {
                placed.put(track.id(), new Card(track.id(), 0, row, 0));
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
            for (Channel channel : session.channels()) {
                if (channel instanceof Bus input
                        && Connections.from(session, input).contains(bus.id())) {
                    behind = Math.max(behind, columns.getOrDefault(input.id(), 1) + 1);
                }
            }
            return behind;
        }

        /** Each as high as the middle of its inputs, moved apart from the top down where they would overlap. */
        private double placeBuses(List<Bus> buses, int column) {
            record Wanted(Bus bus, double row) {}
            List<Wanted> wanted = new ArrayList<>();
            for (Bus bus : buses) {
                if (columns.getOrDefault(bus.id(), 1) == column) {
                    wanted.add(new Wanted(bus, middle(bus)));
                }
            }
            wanted.sort(Comparator.comparingDouble(Wanted::row));
            double next = BUS_ROWS / 2 - 0.5;
            for (Wanted one : wanted) {
                double row = Math.max(next, one.row());
                placed.put(one.bus().id(), new Card(one.bus().id(), column, row, 0));
                next = row + BUS_ROWS;
            }
            return next;
        }

        private double middle(Bus bus) {
            double sum = 0;
            int count = 0;
            for (Channel channel : session.channels()) {
                Card card = card(channel, bus);
                if (card != null && Connections.from(session, channel).contains(bus.id())) {
                    sum += card.row();
                    count++;
                }
            }
            return count == 0 ? 0 : sum / count;
        }

        private @Nullable Card card(Channel channel, Bus bus) {
            Card own = placed.get(channel.id());
            return own != null || !channel.strip().output().equals(Output.to(bus.id()))
                    ? own
                    : foldedCards.get(bus.id());
        }

        private List<Link> links() {
            List<Link> links = new ArrayList<>();
            foldedCards.keySet().forEach(bus -> links.add(new Link(bus, bus, Kind.OUTPUT, true)));
            for (Channel channel : session.channels()) {
                if (!placed.containsKey(channel.id()) || channel.cue()) {
                    continue;
                }
                if (channel.strip().output() instanceof Output.ToBus(ChannelId bus)) {
                    links.add(new Link(channel.id(), bus, Kind.OUTPUT, false));
                }
                Connections.taps(session, channel.id()).stream()
                        .filter(placed::containsKey)
                        .forEach(track -> links.add(new Link(channel.id(), track, Kind.TAP, false)));
                channel.strip()
                        .extraOutputs()
                        .forEach(bus -> links.add(new Link(channel.id(), bus, Kind.EXTRA_OUTPUT, false)));
                for (Send send : channel.strip().sends()) {
                    Kind kind = send.target() instanceof Send.ToKey ? Kind.KEY : Kind.SEND;
                    if (placed.containsKey(send.target().channel())) {
                        links.add(new Link(channel.id(), send.target().channel(), kind, false));
                    }
                }
            }
            return links;
        }
    }
}
