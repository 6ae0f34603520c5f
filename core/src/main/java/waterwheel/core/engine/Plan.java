package waterwheel.core.engine;

import java.util.BitSet;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import waterwheel.core.session.ChannelId;

/** A session made ready to run. Immutable. */
public final class Plan {
    private final int sampleRateHz;
    private final long lengthFrames;
    private final List<Signal> signals;
    private final List<Integer> latencies;
    private final Map<SignalId, Integer> places;
    private final Map<ChannelId, Integer> chainEnds = new HashMap<>();

    /**
     * Makes a plan.
     *
     * @param lengthFrames length of the song
     * @param signals every signal after all of its inputs
     * @param latencies by how many frames each is late, because of the processors before it
     */
    public Plan(int sampleRateHz, long lengthFrames, List<Signal> signals, List<Integer> latencies) {
        this.sampleRateHz = sampleRateHz;
        this.lengthFrames = lengthFrames;
        this.signals = List.copyOf(signals);
        this.latencies = List.copyOf(latencies);
        places = HashMap.newHashMap(signals.size());
        for (int i = 0; i < signals.size(); i++) {
            SignalId id = signals.get(i).id();
            places.putIfAbsent(id, i);
            if (id.point() == SignalId.Point.INSERT && !id.whole()) {
                chainEnds.put(id.channel(), i);
            }
        }
    }

    /** A plan of signals that nothing holds up. */
    public Plan(int sampleRateHz, long lengthFrames, List<Signal> signals) {
        this(sampleRateHz, lengthFrames, signals, Collections.nCopies(signals.size(), 0));
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

    /** The signals that are part of what is heard; the others are there to be measured. */
    public BitSet heard() {
        BitSet heard = new BitSet();
        for (int i = 0; i < signals.size(); i++) {
            heard.set(i, signals.get(i).id().point() != SignalId.Point.FILES);
        }
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
        return new Plan(sampleRateHz, lengthFrames, replaced, latencies);
    }

    /** Returns the plan for a song of another length, such as one whose reverb is heard out. */
    public Plan withLength(long frames) {
        return new Plan(sampleRateHz, frames, signals, latencies);
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

    /** Whether some of the signals remember what came before, so that the song must be run from its beginning. */
    public boolean remembers(BitSet some) {
        return some.stream()
                .mapToObj(signals::get)
                .anyMatch(s -> s instanceof Signal.Processed || s instanceof Signal.Delayed);
    }

    /** Index of the signal at the end of a channel's inserts; its first one where it has none. */
    public int chainEnd(ChannelId channel) {
        Integer end = chainEnds.get(channel);
        return end == null ? first(channel) : end;
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
