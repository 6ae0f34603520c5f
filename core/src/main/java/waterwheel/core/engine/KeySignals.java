package waterwheel.core.engine;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.OptionalInt;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;

/**
 * What inserts listen to beside their input: what is sent to their keys, the same in a stem as in the mix, and in a stem
 * what an insert of a bus that shares its gain hears of the whole session.
 */
final class KeySignals {
    private final PlanBuilder plan;
    private final Map<Slot, List<Signal.Edge>> sent = new HashMap<>();
    private final Map<Slot, Integer> sums = new HashMap<>();
    private final Map<Slot, Integer> shared = new HashMap<>();

    private record Slot(ChannelId channel, SlotId slot) {
        static Slot of(Channel channel, Insert insert) {
            return new Slot(channel.id(), insert.id());
        }
    }

    KeySignals(PlanBuilder plan) {
        this.plan = plan;
    }

    /** Sends something to an insert's key. */
    void send(ChannelId channel, SlotId slot, Signal.Edge edge) {
        sent.computeIfAbsent(new Slot(channel, slot), any -> new ArrayList<>()).add(edge);
    }

    /** The signal at an insert's key, if something is sent there. A mono channel's hears half the sum of both sides. */
    OptionalInt key(Channel channel, Insert insert) {
        Slot slot = Slot.of(channel, insert);
        List<Signal.Edge> edges = sent.get(slot);
        if (edges == null || !insert.processor().kind().keyed()) {
            return OptionalInt.empty();
        }
        SignalId id = new SignalId(channel.id(), SignalId.Point.KEY, insert.id().value());
        return OptionalInt.of(sums.computeIfAbsent(
                slot,
                any -> plan.addSum(
                        id,
                        channel.planes(),
                        channel.planes() == 1
                                ? edges.stream().map(Signal.Edge::folded).toList()
                                : edges)));
    }

    /** Notes what an insert of the whole session hears. */
    void share(Channel channel, Insert insert, Signal.Edge edge) {
        SignalId id =
                new SignalId(channel.id(), SignalId.Point.SHARED, insert.id().value(), true);
        shared.put(Slot.of(channel, insert), plan.addSum(id, channel.planes(), edge));
    }

    /** What it hears; noted before. */
    int shared(Channel channel, Insert insert) {
        return Objects.requireNonNull(
                shared.get(Slot.of(channel, insert)), "the whole session's bus before the stem's");
    }
}
