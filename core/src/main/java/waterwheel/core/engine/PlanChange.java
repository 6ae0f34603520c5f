package waterwheel.core.engine;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.IntToLongFunction;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import waterwheel.core.inserts.ProcessorKind;
import waterwheel.core.processing.Processors;
import waterwheel.core.session.Clip;

/**
 * Up to which frame the signals of a changed plan are what they were before the change. Nothing hears what comes later than
 * it does itself, so what a change leaves as it is at a signal's inputs is left as it is there.
 */
public final class PlanChange {
    private static final long ALWAYS = Long.MAX_VALUE;

    private final Plan now;
    private final List<SignalKey> keys;
    private final Plan before;
    private final List<SignalKey> keysBefore;
    private final IntToLongFunction soundStart;
    private final long[] same;

    private PlanChange(
            Plan now, List<SignalKey> keys, Plan before, List<SignalKey> keysBefore, IntToLongFunction soundStart) {
        this.now = now;
        this.keys = keys;
        this.before = before;
        this.keysBefore = keysBefore;
        this.soundStart = soundStart;
        same = new long[now.signals().size()];
    }

    /**
     * By signal of a plan how many of its first frames, as a run computes them, are those that the signal of the same id has
     * in another plan; {@link Long#MAX_VALUE} where all are. It may be more than is said, and never less.
     *
     * @param keys of the plan's signals
     * @param keysBefore of the other plan's
     * @param soundStart by index in the plan the frame of the song up to which a signal is silent, as far as that is known;
     *     0 where it is not
     */
    public static long[] sameFrames(
            Plan now, List<SignalKey> keys, Plan before, List<SignalKey> keysBefore, IntToLongFunction soundStart) {
        PlanChange change = new PlanChange(now, keys, before, keysBefore, soundStart);
        boolean comparable = now.lengthFrames() == before.lengthFrames() && now.sampleRateHz() == before.sampleRateHz();
        for (int i = 0; comparable && i < change.same.length; i++) {
            change.same[i] = change.sameFrames(i);
        }
        return change.same;
    }

    private long sameFrames(int index) {
        Signal signal = now.signals().get(index);
        int old = before.find(signal.id());
        if (old < 0
                || now.latencies().get(index).intValue() != before.latencies().get(old)) {
            return 0;
        }
        if (keys.get(index).equals(keysBefore.get(old))) {
            return ALWAYS;
        }
        Signal other = before.signals().get(old);
        if (signal.planes() != other.planes()) {
            return 0;
        }
        return switch (signal) {
            case Signal.Source source
            when other instanceof Signal.Source that -> untilOther(source.clips(), that.clips());
            case Signal.Sum sum when other instanceof Signal.Sum that -> terms(sum.inputs(), that.inputs());
            case Signal.Ridden ridden
            when other instanceof Signal.Ridden that -> {
                long moved = moved(ridden.motion().sameUntil(that.motion()));
                yield Math.min(inputs(signal, other), Math.max(moved, silentUntil(ridden)));
            }
            case Signal.Processed processed
            when other instanceof Signal.Processed that -> {
                long moved = moved(processed.insert().sameUntil(that.insert()));
                yield Math.min(inputs(signal, other), Math.max(moved, untilSound(processed, that)));
            }
            case Signal.Delayed late
            when other instanceof Signal.Delayed that && late.frames() == that.frames() -> inputs(signal, other);
            default -> 0;
        };
    }

    /** Where rides that say the same up to a frame begin to do something else: at the control point before it. */
    private static long moved(long saidUntil) {
        return Math.max(0, saidUntil - ControlPoints.GRID);
    }

    /**
     * Where a processor begins to hear something, which is where another setting begins to count if it has nothing to
     * remember of silence; somewhat before, because settings that move may still be on their way.
     */
    private long untilSound(Signal.Processed processed, Signal.Processed that) {
        ProcessorKind kind = processed.insert().processor().kind();
        if (!kind.equals(that.insert().processor().kind())
                || Processors.of(kind).remembersSilence()) {
            return 0;
        }
        return Math.max(0, silentUntil(processed) - MotionReader.CROSSING - ControlPoints.GRID);
    }

    /** The frame up to which all that a signal hears is silent, as far as that is known. */
    private long silentUntil(Signal signal) {
        return signal.inputs().stream()
                .mapToLong(edge -> soundStart.applyAsLong(edge.from()))
                .min()
                .orElse(0);
    }

    private boolean sameSignal(int index, int old) {
        return now.signals().get(index).id().equals(before.signals().get(old).id());
    }

    /** What comes through an edge: another gain changes nothing while there is silence. */
    private long input(Signal.Edge edge, Signal.Edge that) {
        if (!sameSignal(edge.from(), that.from())) {
            return 0;
        }
        long before = same[edge.from()];
        return edge.gain().equals(that.gain()) ? before : Math.min(before, soundStart.applyAsLong(edge.from()));
    }

    /** What a signal hears, one input beside the other. */
    private long inputs(Signal signal, Signal that) {
        List<Signal.Edge> edges = signal.inputs();
        List<Signal.Edge> others = that.inputs();
        return edges.size() != others.size()
                ? 0
                : IntStream.range(0, edges.size())
                        .mapToLong(i -> input(edges.get(i), others.get(i)))
                        .min()
                        .orElse(ALWAYS);
    }

    /** Terms are added in their order, and what is silent changes no sum. */
    private long terms(List<Signal.Edge> edges, List<Signal.Edge> others) {
        Map<SignalId, Signal.Edge> old = new HashMap<>();
        others.forEach(edge -> old.put(before.signals().get(edge.from()).id(), edge));
        long least = ALWAYS;
        for (Signal.Edge edge : edges) {
            Optional<Signal.Edge> that = Optional.ofNullable(
                    old.remove(now.signals().get(edge.from()).id()));
            least = Math.min(
                    least, that.map(one -> input(edge, one)).orElseGet(() -> soundStart.applyAsLong(edge.from())));
        }
        for (SignalId gone : old.keySet()) {
            int index = now.find(gone);
            least = Math.min(least, index < 0 ? 0 : Math.min(same[index], soundStart.applyAsLong(index)));
        }
        return inOrder(edges, others) ? least : 0;
    }

    /** Whether the signals that both sums have follow each other in the same order. */
    private boolean inOrder(List<Signal.Edge> edges, List<Signal.Edge> others) {
        List<SignalId> ids =
                edges.stream().map(edge -> now.signals().get(edge.from()).id()).toList();
        List<SignalId> old = others.stream()
                .map(edge -> before.signals().get(edge.from()).id())
                .toList();
        return ids.stream().distinct().count() == ids.size()
                && ids.stream()
                        .filter(old::contains)
                        .toList()
                        .equals(old.stream().filter(ids::contains).toList());
    }

    /** Where the first of the clips begins that are not the same, in the same order, in both tracks. */
    private static long untilOther(List<Clip> clips, List<Clip> others) {
        int most = Math.min(clips.size(), others.size());
        int first = 0;
        while (first < most && clips.get(first).equals(others.get(first))) {
            first++;
        }
        int last = 0;
        while (last < most - first && clips.get(clips.size() - 1 - last).equals(others.get(others.size() - 1 - last))) {
            last++;
        }
        return Stream.concat(
                        clips.subList(first, clips.size() - last).stream(),
                        others.subList(first, others.size() - last).stream())
                .mapToLong(Clip::startFrames)
                .min()
                .orElse(0);
    }
}
