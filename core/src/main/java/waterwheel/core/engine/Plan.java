package waterwheel.core.engine;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.Collection;
import java.util.Collections;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.IntFunction;
import org.jspecify.annotations.Nullable;
import waterwheel.core.path.Stage;
import waterwheel.core.processing.Processors;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Clip;

/** A session made ready to run. Immutable. */
public final class Plan {
    private static final int NONE = -1;

    private final int sampleRateHz;
    private final long lengthFrames;
    private final List<Signal> signals;
    private final List<Integer> latencies;
    private final Map<SignalId, Integer> places;
    private final Map<ChannelId, List<Place>> stages;

    /**
     * Where the level of a channel's stage is found.
     *
     * @param part which of several: an insert's slot; empty for the stages that there is one of
     * @param edge a signal with the gains from there to the stage
     */
    public record Place(Stage stage, String part, Signal.Edge edge) {}

    /**
     * Makes a plan.
     *
     * @param lengthFrames length of the song
     * @param signals every signal after all of its inputs
     * @param latencies by how many frames each is late, because of the processors before it
     * @param stages by channel where each of its stages is found, in signal order
     */
    Plan(
            int sampleRateHz,
            long lengthFrames,
            List<Signal> signals,
            List<Integer> latencies,
            Map<ChannelId, List<Place>> stages) {
        this.sampleRateHz = sampleRateHz;
        this.lengthFrames = lengthFrames;
        this.signals = List.copyOf(signals);
        this.latencies = List.copyOf(latencies);
        this.stages = stages;
        places = HashMap.newHashMap(signals.size());
        for (int i = 0; i < signals.size(); i++) {
            places.putIfAbsent(signals.get(i).id(), i);
        }
    }

    /** A plan of signals that nothing holds up. */
    public Plan(int sampleRateHz, long lengthFrames, List<Signal> signals) {
        this(sampleRateHz, lengthFrames, signals, Collections.nCopies(signals.size(), 0), Map.of());
    }

    public int sampleRateHz() {
        return sampleRateHz;
    }

    /** Length of the song. */
    public long lengthFrames() {
        return lengthFrames;
    }

    /** Every signal after all of its inputs. */
    public List<Signal> signals() {
        return signals;
    }

    /** By how many frames each signal is late, because of the processors before it. */
    public List<Integer> latencies() {
        return latencies;
    }

    /** By how many frames the latest signal is late. */
    public int mostLatency() {
        return latencies.stream().mapToInt(Integer::intValue).max().orElse(0);
    }

    /** Index of a signal, or -1. */
    public int find(SignalId id) {
        return places.getOrDefault(id, -1);
    }

    /** The signals that are part of what is heard; the others are there to be measured, or are in frozen sounds. */
    public BitSet heard() {
        BitSet heard = new BitSet();
        boolean frozen = false;
        for (int i = 0; i < signals.size(); i++) {
            heard.set(i, signals.get(i).id().point() != SignalId.Point.FILES);
            frozen |= signals.get(i).id().point() == SignalId.Point.FROZEN;
        }
        // What is before gains of 0 is computed all the same, because they may move.
        return frozen ? before(ends(), NONE) : heard;
    }

    private BitSet ends() {
        BitSet ends = new BitSet();
        for (int i = 0; i < signals.size(); i++) {
            switch (signals.get(i).id().point()) {
                case MONITOR, OUTPUT, PAIR, INCOMING -> ends.set(i);
                default -> {}
            }
        }
        return ends;
    }

    /**
     * The signals that some hang on, those themselves among them, whatever gains are between.
     *
     * @param cut a signal whose inputs do not count; {@link #NONE} for all
     */
    private BitSet before(BitSet some, int cut) {
        BitSet set = (BitSet) some.clone();
        for (int i = signals.size() - 1; i >= 0; i--) {
            if (set.get(i) && i != cut) {
                signals.get(i).inputs().forEach(edge -> set.set(edge.from()));
            }
        }
        return set;
    }

    /** Returns the plan with one more signal: what comes through an edge. */
    public Plan withTap(SignalId id, Signal.Edge edge) {
        List<Signal> more = new ArrayList<>(signals);
        more.add(new Signal.Sum(id, edge.gain().toPlanes(), List.of(edge)));
        List<Integer> late = new ArrayList<>(latencies);
        late.add(latencies.get(edge.from()));
        return new Plan(sampleRateHz, lengthFrames, more, late, stages);
    }

    /**
     * By signal the song's frame from which on it is silent; {@link Long#MAX_VALUE} behind processors, which may go on
     * for as long as they like.
     */
    public List<Long> soundEnds() {
        List<Long> ends = new ArrayList<>();
        for (Signal signal : signals) {
            ends.add(
                    switch (signal) {
                        case Signal.Source source ->
                            source.clips().stream()
                                    .mapToLong(Clip::endFrames)
                                    .max()
                                    .orElse(0);
                        case Signal.Played played -> played.performance().sounds() ? Long.MAX_VALUE : 0;
                        case Signal.Sum _, Signal.Ridden _, Signal.Delayed _ ->
                            signal.inputs().stream()
                                    .filter(edge -> !edge.gain().silent())
                                    .mapToLong(edge -> ends.get(edge.from()))
                                    .max()
                                    .orElse(0);
                        case Signal.Processed _,
                                Signal.Returned _,
                                Signal.Kept _,
                                Signal.Incoming _,
                                Signal.Listened _ -> Long.MAX_VALUE;
                    });
        }
        return ends;
    }

    /** The signals that are heard by way of one alone, itself among them: what need not be computed where it is known. */
    public BitSet onlyFor(int signal) {
        BitSet heard = before(ends(), NONE);
        heard.andNot(before(ends(), signal));
        heard.set(signal);
        return heard;
    }

    /** Index of the mix. */
    public int output() {
        return last(SignalId.Point.OUTPUT);
    }

    /** Index of the mix with the cues. */
    public int monitor() {
        return last(SignalId.Point.MONITOR);
    }

    /** Index of a channel's first signal: a track's source, a bus's input. */
    public int first(ChannelId channel) {
        int source = find(new SignalId(channel, SignalId.Point.SOURCE));
        return source >= 0 ? source : find(new SignalId(channel, SignalId.Point.INPUT));
    }

    /** Returns a plan in which some signals are replaced by ones with the same id and planes. */
    public Plan with(List<Signal> replaced) {
        return new Plan(sampleRateHz, lengthFrames, replaced, latencies, stages);
    }

    /**
     * Returns the plan with samples in hand in place of signals that would have to be computed. What delays one of these is
     * the same samples, taken from as much earlier, so that nothing has to remember them.
     *
     * @param samples by index; null, and ones that are shorter than the plan runs, leave the signal
     */
    public Plan withKept(IntFunction<@Nullable KeptSignal> samples) {
        long frames = lengthFrames + mostLatency();
        List<Signal> replaced = new ArrayList<>(signals);
        for (int i = 0; i < signals.size(); i++) {
            Signal signal = signals.get(i);
            KeptSignal kept = samples.apply(i);
            if (kept != null && kept.frames() >= frames) {
                replaced.set(i, new Signal.Kept(signal.id(), signal.planes(), kept, 0));
            } else if (signal instanceof Signal.Delayed late
                    && replaced.get(late.from()) instanceof Signal.Kept known) {
                replaced.set(
                        i, new Signal.Kept(late.id(), late.planes(), known.samples(), known.late() + late.frames()));
            }
        }
        return with(replaced);
    }

    /** Returns the plan for a song of another length, such as one whose reverb is heard out. */
    public Plan withLength(long frames) {
        return new Plan(sampleRateHz, frames, signals, latencies, stages);
    }

    /** The signals that reach the wanted ones through gains that are not 0, those themselves among them. */
    public BitSet reaching(BitSet wanted) {
        BitSet set = (BitSet) wanted.clone();
        for (int i = signals.size() - 1; i >= 0; i--) {
            if (set.get(i)) {
                for (Signal.Edge edge : signals.get(i).inputs()) {
                    if (!edge.gain().silent()) {
                        set.set(edge.from());
                    }
                }
            }
        }
        return set;
    }

    /** Whether nothing reaches a signal, because all gains on its way are 0 or nothing is played there. */
    public boolean silent(int index) {
        BitSet only = new BitSet();
        only.set(index);
        return reaching(only).stream().mapToObj(signals::get).noneMatch(Plan::sounds);
    }

    private static boolean sounds(Signal signal) {
        return switch (signal) {
            case Signal.Source source -> !source.clips().isEmpty();
            case Signal.Played played -> played.performance().sounds();
            case Signal.Processed processed ->
                Processors.of(processed.insert().processor().kind()).sounds();
            case Signal.Returned _, Signal.Kept _, Signal.Incoming _ -> true;
            case Signal.Sum _, Signal.Ridden _, Signal.Delayed _, Signal.Listened _ -> false;
        };
    }

    /** Whether any signal remembers what came before. */
    public boolean remembers() {
        BitSet all = new BitSet();
        all.set(0, signals.size());
        return remembers(all);
    }

    /** Whether some of the signals remember what came before, so that the song must be run from its beginning. */
    public boolean remembers(BitSet some) {
        return !remembering(some).isEmpty();
    }

    /** Those of some signals that remember what came before. */
    public BitSet remembering(BitSet some) {
        BitSet remembering = new BitSet();
        some.stream()
                .filter(i -> signals.get(i) instanceof Signal.Processed || signals.get(i) instanceof Signal.Delayed)
                .forEach(remembering::set);
        return remembering;
    }

    /** How far back some of the signals remember; to the song's beginning, {@link Long#MAX_VALUE}, where processors do. */
    public long memoryFrames(BitSet some) {
        if (some.stream().anyMatch(i -> signals.get(i) instanceof Signal.Processed)) {
            return Long.MAX_VALUE;
        }
        long longest = 0;
        long[] back = new long[signals.size()];
        for (int i = some.nextSetBit(0); i >= 0; i = some.nextSetBit(i + 1)) {
            for (Signal.Edge edge : signals.get(i).inputs()) {
                back[i] = Math.max(back[i], back[edge.from()]);
            }
            back[i] += signals.get(i) instanceof Signal.Delayed late ? late.frames() : 0;
            longest = Math.max(longest, back[i]);
        }
        return longest;
    }

    /** Where the stages of all channels are found. */
    public Collection<List<Place>> stages() {
        return Collections.unmodifiableCollection(stages.values());
    }

    /** By channel where its meter listens: behind its trim; the main bus's behind its fader. */
    public Map<ChannelId, Signal.Edge> metered() {
        Map<ChannelId, Signal.Edge> metered = new LinkedHashMap<>();
        BitSet heard = heard();
        Signal mix = signals.get(output());
        stages.forEach((channel, places) -> places.stream()
                .filter(place ->
                        place.stage() == Stage.TRIM && heard.get(place.edge().from()))
                .forEach(place -> metered.put(channel, place.edge())));
        metered.put(mix.id().channel(), Signal.Edge.straight(output(), mix.planes()));
        return metered;
    }

    /** Whether another plan differs in values alone, so that a run of this one can come to it. */
    public boolean sameShape(Plan other) {
        if (sampleRateHz != other.sampleRateHz
                || signals.size() != other.signals.size()
                || !latencies.equals(other.latencies)) {
            return false;
        }
        for (int i = 0; i < signals.size(); i++) {
            if (!signals.get(i).sameShape(other.signals.get(i))) {
                return false;
            }
        }
        return true;
    }

    /** Where each stage of a channel is found, in signal order. */
    public List<Place> stages(ChannelId channel) {
        return stages.getOrDefault(channel, List.of());
    }

    /**
     * Where a stage of a channel is found.
     *
     * @param part which of several: an insert's slot; empty for the stages that there is one of
     */
    public Optional<Place> stage(ChannelId channel, Stage stage, String part) {
        return stages(channel).stream()
                .filter(place -> place.stage() == stage && place.part().equals(part))
                .findFirst();
    }

    private int last(SignalId.Point point) {
        for (int i = signals.size() - 1; i >= 0; i--) {
            if (signals.get(i).id().point() == point) {
                return i;
            }
        }
        throw new IllegalStateException("signals: no " + point + " (expected: a plan made by the compiler)");
    }
}
