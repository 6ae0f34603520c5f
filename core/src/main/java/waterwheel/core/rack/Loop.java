package waterwheel.core.rack;

import java.util.Optional;
import java.util.stream.IntStream;

/**
 * A way out of the computer, through a unit and back. A stereo channel takes two ports side by side each way.
 *
 * @param unit what lies on the way; empty where that was not told
 * @param sendPort the first output, from 1; 0 for none
 * @param returnPort the first input, from 1; 0 for none
 * @param timing empty before it was timed
 * @param capture empty before it was captured
 */
public record Loop(
        Optional<UnitId> unit, int sendPort, int returnPort, Optional<LoopTiming> timing, Optional<Capture> capture) {
    /** One that is not patched. */
    public static final Loop NONE = new Loop(Optional.empty(), 0, 0, Optional.empty(), Optional.empty());

    public Loop {
        if (sendPort < 0 || sendPort > Port.MOST || returnPort < 0 || returnPort > Port.MOST) {
            throw new IllegalArgumentException(
                    "ports: " + sendPort + " to " + returnPort + " (expected: 0 to " + Port.MOST + ")");
        }
    }

    public boolean patched() {
        return sendPort > 0 && returnPort > 0;
    }

    /** Whether an interface has all ports that it takes. */
    public boolean within(int inputs, int outputs, int planes) {
        return patched() && sendPort + planes - 1 <= outputs && returnPort + planes - 1 <= inputs;
    }

    /** The outputs that it takes. */
    public IntStream sends(int planes) {
        return sendPort == 0 ? IntStream.empty() : IntStream.range(sendPort, sendPort + planes);
    }

    /** The inputs that it takes. */
    public IntStream returns(int planes) {
        return returnPort == 0 ? IntStream.empty() : IntStream.range(returnPort, returnPort + planes);
    }

    /** By how much what comes back is late as far as is known, in frames. */
    public double latencyFrames() {
        return timing.map(LoopTiming::latencyFrames).orElse(0.0);
    }

    public Loop withUnit(Optional<UnitId> value) {
        return new Loop(value, sendPort, returnPort, timing, capture);
    }

    /** Returns the loop by other ports: its timing was of others, its capture is known to be stale by itself. */
    public Loop withPorts(int send, int back) {
        return new Loop(unit, send, back, Optional.empty(), capture);
    }

    public Loop withTiming(Optional<LoopTiming> value) {
        return new Loop(unit, sendPort, returnPort, value, capture);
    }

    public Loop withCapture(Optional<Capture> value) {
        return new Loop(unit, sendPort, returnPort, timing, value);
    }
}
