package waterwheel.core.engine;

import java.util.BitSet;
import java.util.List;
import waterwheel.core.session.ChannelId;

/**
 * A session made ready to run.
 *
 * @param lengthFrames length of the song
 * @param signals every signal after all of its inputs
 */
public record Plan(int sampleRateHz, long lengthFrames, List<Signal> signals) {
    public Plan {
        signals = List.copyOf(signals);
    }

    /** Index of a signal, or -1. */
    public int find(SignalId id) {
        for (int i = 0; i < signals.size(); i++) {
            if (signals.get(i).id().equals(id)) {
                return i;
            }
        }
        return -1;
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
        return new Plan(sampleRateHz, lengthFrames, replaced);
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
