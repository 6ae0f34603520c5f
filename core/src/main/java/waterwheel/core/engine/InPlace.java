package waterwheel.core.engine;

import java.util.BitSet;

/**
 * Which signals of a run are computed in the buffers of their input, because nobody else hears that: so a channel's
 * samples stay where they are from its clips to its placement, near the processor, and are moved only where ways part or
 * meet. Whoever writes to the first of such signals waits until the last is no longer needed.
 */
final class InPlace {
    private static final int NONE = -1;

    /** By signal the one whose buffers it takes over, or {@link #NONE}. */
    private final int[] inputs;
    /** By signal the last one that takes its buffers over, itself if none does. */
    private final int[] lasts;

    private InPlace(int count) {
        inputs = new int[count];
        lasts = new int[count];
        for (int i = 0; i < count; i++) {
            inputs[i] = NONE;
            lasts[i] = i;
        }
    }

    /** Every signal in buffers of its own. */
    static InPlace none(Plan plan) {
        return new InPlace(plan.signals().size());
    }

    /**
     * Finds the signals that can be computed in place.
     *
     * @param needed the signals that are computed
     * @param wanted those of them that are listened to
     */
    static InPlace of(Plan plan, BitSet needed, BitSet wanted) {
        int count = plan.signals().size();
        int[] readers = new int[count];
        needed.stream().forEach(i -> plan.signals().get(i).inputs().forEach(edge -> readers[edge.from()]++));
        InPlace places = new InPlace(count);
        for (int i = count - 1; i >= 0; i--) {
            int from = needed.get(i) ? inputInPlace(plan.signals().get(i)) : NONE;
            if (from != NONE && needed.get(from) && readers[from] == 1 && !wanted.get(from)) {
                places.inputs[i] = from;
                places.lasts[from] = places.lasts[i];
            }
        }
        return places;
    }

    /** The one input of a signal that makes each plane of the same plane of it. */
    private static int inputInPlace(Signal signal) {
        Signal.Edge input =
                switch (signal) {
                    case Signal.Processed processed -> processed.input();
                    case Signal.Ridden ridden -> ridden.input();
                    case Signal.Sum sum
                    when sum.inputs().size() == 1 -> sum.inputs().getFirst();
                    default -> null;
                };
        return input != null
                        && input.gain().toPlanes() == signal.planes()
                        && input.gain().keepsPlanes()
                ? input.from()
                : NONE;
    }

    /** Whether a signal is computed in its input's buffers. */
    boolean is(int signal) {
        return inputs[signal] != NONE;
    }

    /** The signal in whose buffers it is computed. */
    int input(int signal) {
        return inputs[signal];
    }

    /** The last signal that is computed in a signal's buffers. */
    int last(int signal) {
        return lasts[signal];
    }

    /** Whether a signal's samples are gone when the block is done. */
    boolean overwritten(int signal) {
        return lasts[signal] != signal;
    }
}
