package waterwheel.core.engine;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import waterwheel.core.session.ChannelId;

/**
 * What feeds sums. Sums must add in session order, which the order of computation need not be.
 *
 * @param <K> what tells the sums apart
 */
final class SumInputs<K> {
    private final Map<ChannelId, Integer> places;
    private final Map<K, List<Input>> inputs = new HashMap<>();

    private record Input(ChannelId from, Signal.Edge edge) {}

    /** @param places of the channels in the session */
    SumInputs(Map<ChannelId, Integer> places) {
        this.places = places;
    }

    void connect(K sum, ChannelId from, Signal.Edge edge) {
        inputs.computeIfAbsent(sum, any -> new ArrayList<>()).add(new Input(from, edge));
    }

    /** The sums that anything feeds, in no order. */
    Set<K> sums() {
        return inputs.keySet();
    }

    /** What feeds a sum, in the session's order. */
    List<Signal.Edge> of(K sum) {
        return inputs.getOrDefault(sum, List.of()).stream()
                .sorted(Comparator.comparingInt(input -> places.getOrDefault(input.from(), 0)))
                .map(Input::edge)
                .toList();
    }
}
