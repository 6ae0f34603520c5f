package waterwheel.core.engine;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalInt;
import java.util.function.IntUnaryOperator;

/**
 * One signal of each of several plans as one plan: what is the same in some of them is computed once, and what reaches
 * none of the wanted signals is left out.
 *
 * @param plan as long as the longest of them
 * @param ends by plan where its wanted signal is found
 */
public record JointPlan(Plan plan, List<Integer> ends) {
    public JointPlan {
        ends = List.copyOf(ends);
    }

    /**
     * Joins plans of one sample rate.
     *
     * @param plans at least one, of signals that can be computed from the session
     * @param wanted by plan the index of its wanted signal
     */
    public static JointPlan of(List<Plan> plans, List<Integer> wanted, Media media) {
        Joiner joiner = new Joiner();
        List<Integer> ends = new ArrayList<>();
        long frames = 0;
        for (int i = 0; i < plans.size(); i++) {
            ends.add(joiner.add(plans.get(i), wanted.get(i), SignalKey.of(plans.get(i), media)));
            frames = Math.max(frames, plans.get(i).lengthFrames());
        }
        int rate = plans.getFirst().sampleRateHz();
        return new JointPlan(new Plan(rate, frames, joiner.signals, joiner.latencies, Map.of()), ends);
    }

    /** The wanted signals. */
    public BitSet wanted() {
        BitSet set = new BitSet();
        ends.forEach(set::set);
        return set;
    }

    /** What has been joined so far. */
    private static final class Joiner {
        private final List<Signal> signals = new ArrayList<>();
        private final List<Integer> latencies = new ArrayList<>();
        private final Map<Known, Integer> known = new HashMap<>();

        /** Equal samples that are equally late: those that are found behind other delays are not at the same place. */
        private record Known(SignalKey key, int latency) {}

        /** Returns the place of a plan's wanted signal. */
        int add(Plan plan, int wanted, List<SignalKey> keys) {
            BitSet needed = needed(plan, wanted);
            int[] places = new int[plan.signals().size()];
            for (int i = needed.nextSetBit(0); i >= 0; i = needed.nextSetBit(i + 1)) {
                Known one = new Known(keys.get(i), plan.latencies().get(i));
                Integer place = known.get(one);
                if (place == null) {
                    place = signals.size();
                    signals.add(moved(plan.signals().get(i), from -> places[from]));
                    latencies.add(plan.latencies().get(i));
                    known.put(one, place);
                }
                places[i] = place;
            }
            return places[wanted];
        }

        private static BitSet needed(Plan plan, int wanted) {
            BitSet needed = new BitSet();
            needed.set(wanted);
            for (int i = wanted; i >= 0; i--) {
                if (needed.get(i)) {
                    inputs(plan.signals().get(i)).forEach(edge -> needed.set(edge.from()));
                }
            }
            return needed;
        }
    }

    /** What a signal is made of: of a sum, what is not silent there. */
    private static List<Signal.Edge> inputs(Signal signal) {
        return signal instanceof Signal.Sum
                ? signal.inputs().stream().filter(edge -> !edge.gain().silent()).toList()
                : signal.inputs();
    }

    private static Signal moved(Signal signal, IntUnaryOperator place) {
        return switch (signal) {
            case Signal.Sum sum ->
                new Signal.Sum(
                        sum.id(),
                        sum.planes(),
                        inputs(sum).stream().map(edge -> moved(edge, place)).toList());
            case Signal.Processed one ->
                new Signal.Processed(
                        one.id(),
                        one.planes(),
                        moved(one.input(), place),
                        one.key().isEmpty()
                                ? OptionalInt.empty()
                                : OptionalInt.of(place.applyAsInt(one.key().getAsInt())),
                        one.insert());
            case Signal.Ridden one ->
                new Signal.Ridden(one.id(), one.planes(), moved(one.input(), place), one.motion());
            case Signal.Delayed one ->
                new Signal.Delayed(one.id(), one.planes(), place.applyAsInt(one.from()), one.frames());
            case Signal.Source _, Signal.Played _ -> signal;
            case Signal.Kept _, Signal.Returned _, Signal.Incoming _, Signal.Listened _ ->
                throw new IllegalArgumentException(
                        "plans: " + signal.id() + " (expected: signals that can be computed from the session)");
        };
    }

    private static Signal.Edge moved(Signal.Edge edge, IntUnaryOperator place) {
        return new Signal.Edge(place.applyAsInt(edge.from()), edge.gain());
    }
}
