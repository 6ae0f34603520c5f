package waterwheel.desktop.flow;

import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;

/**
 * Where each channel stands on a map of the session: columns from the sources at the left to the main bus at the right, a
 * bus one column behind the last of its inputs and as high as their middle. Links that pass a column do so in a lane of
 * their own, not behind its cards. The map depends on the routing alone, so a small edit moves little.
 *
 * @param cards by channel, in no order
 * @param links in session order
 * @param lanes where links pass columns
 * @param columns how many columns there are
 * @param rows how many rows the tallest column takes
 */
public record FlowMap(List<Card> cards, List<Link> links, List<Lane> lanes, int columns, double rows) {
    /**
     * A channel, or the tracks of a folded bus, on the map.
     *
     * @param id of the channel; of the bus for its folded tracks
     * @param column from 0 at the left
     * @param row of its middle, from 0 at the top
     * @param tracks that the card stands for; empty for a channel of its own
     */
    public record Card(ChannelId id, int column, double row, List<ChannelId> tracks) {
        public Card {
            tracks = List.copyOf(tracks);
        }

        /** How many tracks the card stands for; 0 for a channel of its own. */
        public int folded() {
            return tracks.size();
        }
    }

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
     * @param from the channel, or the bus whose folded tracks are connected
     * @param folded whether it starts at folded tracks
     */
    public record Link(ChannelId from, ChannelId to, Kind kind, boolean folded) {
        boolean passesWith(Lane lane) {
            return to.equals(lane.to()) && (kind == Kind.SEND) == lane.sends();
        }
    }

    /**
     * Where the links to one channel pass a column together.
     *
     * @param to the channel that they lead to
     * @param sends whether they are sends, which have a lane of their own
     * @param row of its middle, from 0 at the top
     */
    public record Lane(ChannelId to, boolean sends, int column, double row) {}

    public FlowMap {
        cards = List.copyOf(cards);
        links = List.copyOf(links);
        lanes = List.copyOf(lanes);
    }

    /**
     * Lays a session out.
     *
     * @param folded buses whose tracks are one card
     * @param filter only tracks whose names hold this text are shown; empty for all
     */
    public static FlowMap of(Session session, Set<ChannelId> folded, String filter) {
        return new FlowLayout(session, folded, filter.strip().toLowerCase(Locale.ROOT)).run();
    }

    /** The lanes of a link, from the column behind its beginning on. */
    public List<Lane> lanes(Link link) {
        int from = cards.stream()
                .filter(card -> card.id().equals(link.from()) && card.folded() > 0 == link.folded())
                .mapToInt(Card::column)
                .findFirst()
                .orElse(0);
        return lanes.stream()
                .filter(lane -> link.passesWith(lane) && lane.column() > from)
                .sorted(Comparator.comparingInt(Lane::column))
                .toList();
    }
}
