package waterwheel.core.session;

import java.util.List;

/**
 * A channel that a print stands in for, put away with all that it has: silent, in no list, and brought back whole.
 *
 * @param channel of the same id as what stands in for it
 * @param along what fed it and nothing else, in the order of the screen; each a channel with its place
 * @param bonds what was cut of the channels that stayed
 */
public record Parked(Channel channel, List<Along> along, List<Bond> bonds) {
    /**
     * A channel that was put away with another one.
     *
     * @param place among all channels before
     */
    public record Along(int place, Channel channel) {}

    public Parked {
        along = List.copyOf(along);
        bonds = List.copyOf(bonds);
    }
}
