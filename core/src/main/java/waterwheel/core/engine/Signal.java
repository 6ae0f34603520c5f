package waterwheel.core.engine;

import java.util.List;
import waterwheel.core.session.Clip;

/** One signal of a plan, from the signals before it. */
public sealed interface Signal {
    SignalId id();

    /** 1 mono, 2 stereo. */
    int planes();

    /** What feeds it; empty for a source. */
    List<Edge> inputs();

    /** Clips of audio files, summed. */
    record Source(SignalId id, int planes, List<Clip> clips) implements Signal {
        public Source {
            clips = List.copyOf(clips);
        }

        @Override
        public List<Edge> inputs() {
            return List.of();
        }
    }

    /** A sum of other signals, each through its gains, added in the order of the list. */
    record Sum(SignalId id, int planes, List<Edge> inputs) implements Signal {
        public Sum {
            inputs = List.copyOf(inputs);
        }
    }

    /** A signal computed before and kept: the same samples as the signal of that id would have. */
    record Kept(SignalId id, int planes, KeptSignal samples) implements Signal {
        @Override
        public List<Edge> inputs() {
            return List.of();
        }
    }

    /**
     * A connection into a sum.
     *
     * @param from index of the feeding signal in the plan
     * @param gain linear gains from its planes to the sum's
     */
    record Edge(int from, GainMatrix gain) {}
}
