package waterwheel.core.engine;

import java.util.List;
import java.util.OptionalInt;
import waterwheel.core.inserts.Insert;
import waterwheel.core.instruments.Performance;
import waterwheel.core.path.GainMatrix;
import waterwheel.core.path.Motion;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Clip;
import waterwheel.core.session.Listen;

/** One signal of a plan, from the signals before it. */
public sealed interface Signal {
    SignalId id();

    /** 1 mono, 2 stereo. */
    int planes();

    /** What feeds it; empty for a source. */
    List<Edge> inputs();

    /**
     * Whether another signal differs in values alone: in gains, and in settings that a running processor can move to.
     * What is built by them, such as what a source reads, belongs to the shape.
     */
    default boolean sameShape(Signal other) {
        return equals(other);
    }

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

    /**
     * What comes out of an instrument that plays notes.
     *
     * @param player the track that plays it
     */
    record Played(SignalId id, int planes, Performance performance, ChannelId player) implements Signal {
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

        @Override
        public boolean sameShape(Signal other) {
            return other instanceof Sum that
                    && id.equals(that.id)
                    && planes == that.planes
                    && inputs.stream()
                            .map(Edge::from)
                            .toList()
                            .equals(that.inputs.stream().map(Edge::from).toList());
        }
    }

    /**
     * Another signal through an insert.
     *
     * @param input the signal that is processed, with the gain before the processor
     * @param key index of what it listens to instead, of as many planes; empty for the signal itself
     * @param insert never bypassed
     */
    record Processed(SignalId id, int planes, Edge input, OptionalInt key, Insert insert) implements Signal {
        @Override
        public List<Edge> inputs() {
            return key.isEmpty() ? List.of(input) : List.of(input, Edge.straight(key.getAsInt(), planes));
        }

        @Override
        public boolean sameShape(Signal other) {
            return other instanceof Processed that
                    && id.equals(that.id)
                    && planes == that.planes
                    && input.from() == that.input.from()
                    && key.equals(that.key)
                    && insert.rides().anyActive() == that.insert.rides().anyActive()
                    && insert.processor().movesTo(that.insert.processor());
        }
    }

    /**
     * Another signal through a gain that moves in time.
     *
     * @param input the signal, with the gain that stands still before
     */
    record Ridden(SignalId id, int planes, Edge input, Motion motion) implements Signal {
        @Override
        public List<Edge> inputs() {
            return List.of(input);
        }

        @Override
        public boolean sameShape(Signal other) {
            return other instanceof Ridden that
                    && id.equals(that.id)
                    && planes == that.planes
                    && input.from() == that.input.from()
                    && motion.gains() == that.motion.gains();
        }
    }

    /**
     * Another signal, later.
     *
     * @param from index of it
     * @param frames by how much, 1 or more
     */
    record Delayed(SignalId id, int planes, int from, int frames) implements Signal {
        @Override
        public List<Edge> inputs() {
            return List.of(Edge.straight(from, planes));
        }
    }

    /**
     * What comes back through the interface of another signal.
     *
     * @param sent index of it
     * @param sendPort the first output that it goes to, from 1
     * @param returnPort the first input that it comes back to, from 1
     */
    record Returned(SignalId id, int planes, int sent, int sendPort, int returnPort) implements Signal {
        @Override
        public List<Edge> inputs() {
            return List.of(Edge.straight(sent, planes));
        }
    }

    /**
     * What comes in by the interface.
     *
     * @param port the first input, from 1
     */
    record Incoming(SignalId id, int planes, int port) implements Signal {
        @Override
        public List<Edge> inputs() {
            return List.of();
        }
    }

    /**
     * What is heard of a track that an input feeds: its recordings while they are played back, and what comes in while it
     * is listened to.
     *
     * @param recorded index of its clips
     * @param incoming index of what comes in
     */
    record Listened(SignalId id, int planes, int recorded, int incoming, Listen listen) implements Signal {
        @Override
        public List<Edge> inputs() {
            return List.of(Edge.straight(recorded, planes), Edge.straight(incoming, planes));
        }

        @Override
        public boolean sameShape(Signal other) {
            return other instanceof Listened that
                    && id.equals(that.id)
                    && planes == that.planes
                    && recorded == that.recorded
                    && incoming == that.incoming;
        }
    }

    /**
     * A signal computed before and kept: the same samples as the signal of that id would have.
     *
     * @param late by how many frames it comes later than the samples that are kept
     */
    record Kept(SignalId id, int planes, KeptSignal samples, int late) implements Signal {
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
    record Edge(int from, GainMatrix gain) {
        /** Another signal as it is. */
        static Edge straight(int from, int planes) {
            return new Edge(from, GainMatrix.diagonal(planes, 1));
        }

        /** With a factor more, linear. */
        public Edge times(double factor) {
            return factor == 1 ? this : new Edge(from, gain.times(factor));
        }

        /** Half the sum of both sides. */
        Edge folded() {
            return new Edge(from, gain.folded());
        }

        /** With gains more, behind those that it has. */
        public Edge then(GainMatrix more) {
            return new Edge(from, more.after(gain));
        }
    }
}
