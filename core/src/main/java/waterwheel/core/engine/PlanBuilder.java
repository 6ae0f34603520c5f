package waterwheel.core.engine;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import waterwheel.core.path.Stage;
import waterwheel.core.session.ChannelId;

/**
 * A plan as it comes to be: signals in order, each with its latency. Where signals meet, the ones that processors held
 * up least are delayed, so that all arrive together.
 */
final class PlanBuilder {
    /** Whether edges from silent signals keep their gains, because the signals may sound in a moment. */
    private final boolean played;

    private final List<Signal> signals = new ArrayList<>();
    private final List<Integer> latencies = new ArrayList<>();
    /** Signals that nothing reaches; what they feed need not wait for them. */
    private final BitSet silent = new BitSet();

    private final Map<Late, Integer> delayed = new HashMap<>();
    private final Map<ChannelId, List<Plan.Place>> places = new LinkedHashMap<>();

    PlanBuilder(boolean played) {
        this.played = played;
    }

    /** A signal that is wanted later. */
    private record Late(int signal, int frames) {}

    Plan build(int sampleRateHz, long lengthFrames) {
        return new Plan(sampleRateHz, lengthFrames, signals, latencies, places);
    }

    int add(Signal signal, int latency, boolean isSilent) {
        signals.add(signal);
        latencies.add(latency);
        silent.set(signals.size() - 1, isSilent);
        return signals.size() - 1;
    }

    /** Index of the last signal at a point. */
    int find(SignalId.Point point) {
        int at = signals.size() - 1;
        while (signals.get(at).id().point() != point) {
            at--;
        }
        return at;
    }

    int latency(int index) {
        return latencies.get(index);
    }

    /** Whether nothing comes through an edge. */
    boolean silent(Signal.Edge edge) {
        return silent.get(edge.from()) || edge.gain().silent();
    }

    /**
     * Notes where a stage of a channel is found; what was noted first stands.
     *
     * @param aside whether it is a bus of the whole session in the plan of a stem, of which nothing is noted
     */
    void note(ChannelId channel, boolean aside, Stage stage, String part, Signal.Edge edge) {
        if (!aside) {
            place(channel, stage, part, edge);
        }
    }

    /** Notes where a stage of a channel is found; what was noted first stands. */
    void place(ChannelId channel, Stage stage, String part, Signal.Edge edge) {
        List<Plan.Place> stages = places.computeIfAbsent(channel, id -> new ArrayList<>());
        if (stages.stream().noneMatch(p -> p.stage() == stage && p.part().equals(part))) {
            stages.add(new Plan.Place(stage, part, edge));
        }
    }

    /** Adds a signal of its own for what comes through one edge. */
    int addSum(SignalId id, int planes, Signal.Edge only) {
        return add(new Signal.Sum(id, planes, List.of(only)), latencies.get(only.from()), silent(only));
    }

    /** Adds a sum at which all inputs arrive together. */
    int addSum(SignalId id, int planes, List<Signal.Edge> inputs) {
        int latest = inputs.stream()
                .mapToInt(edge -> latencies.get(edge.from()))
                .max()
                .orElse(0);
        List<Signal.Edge> together = inputs.stream()
                .map(edge -> at(edge, latest))
                .map(edge -> !played && silent.get(edge.from()) ? edge.times(0) : edge)
                .toList();
        return add(
                new Signal.Sum(id, planes, together), latest, together.stream().allMatch(edge -> edge.gain()
                        .silent()));
    }

    /** The edge as it arrives at a latency, through a delay where it would come too early. */
    Signal.Edge at(Signal.Edge edge, int latency) {
        int early = latency - latencies.get(edge.from());
        if (early == 0) {
            return edge;
        }
        Integer late = delayed.get(new Late(edge.from(), early));
        if (late == null) {
            late = delay(edge.from(), early, latency);
            delayed.put(new Late(edge.from(), early), late);
        }
        return new Signal.Edge(late, edge.gain());
    }

    private int delay(int signal, int frames, int latency) {
        SignalId from = signals.get(signal).id();
        SignalId id = new SignalId(
                from.channel(), SignalId.Point.DELAYED, from.point() + " " + from.part() + " " + frames, from.whole());
        int planes = signals.get(signal).planes();
        return add(new Signal.Delayed(id, planes, signal, frames), latency, silent.get(signal));
    }
}
