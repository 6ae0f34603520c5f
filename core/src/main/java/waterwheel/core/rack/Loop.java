package waterwheel.core.rack;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/**
 * A way out of the computer, through a unit and back. A stereo channel takes two ports side by side each way.
 *
 * @param unit what lies on the way; empty where that was not told
 * @param sendPort the first output, from 1; 0 for none
 * @param returnPort the first input, from 1; 0 for none
 * @param timing empty before it was timed
 * @param capture empty before it was captured
 * @param shares what came back of stems by themselves, one a stem; in the session of one stem only what is played of it
 */
public record Loop(
        Optional<UnitId> unit,
        int sendPort,
        int returnPort,
        Optional<LoopTiming> timing,
        Optional<Capture> capture,
        List<StemCapture> shares) {
    /** One that is not patched. */
    public static final Loop NONE = new Loop(Optional.empty(), 0, 0, Optional.empty(), Optional.empty());

    public Loop {
        shares = List.copyOf(shares);
        if (sendPort < 0 || sendPort > Port.MOST || returnPort < 0 || returnPort > Port.MOST) {
            throw new IllegalArgumentException(
                    "ports: " + sendPort + " to " + returnPort + " (expected: 0 to " + Port.MOST + ")");
        }
    }

    /** A loop without captures of stems. */
    public Loop(
            Optional<UnitId> unit,
            int sendPort,
            int returnPort,
            Optional<LoopTiming> timing,
            Optional<Capture> capture) {
        this(unit, sendPort, returnPort, timing, capture, List.of());
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
        return new Loop(value, sendPort, returnPort, timing, capture, shares);
    }

    /** Returns the loop by other ports: its timing was of others, its capture is known to be stale by itself. */
    public Loop withPorts(int send, int back) {
        return new Loop(unit, send, back, Optional.empty(), capture, shares);
    }

    public Loop withTiming(Optional<LoopTiming> value) {
        return new Loop(unit, sendPort, returnPort, value, capture, shares);
    }

    public Loop withCapture(Optional<Capture> value) {
        return new Loop(unit, sendPort, returnPort, timing, value, shares);
    }

    public Loop withShares(List<StemCapture> value) {
        return new Loop(unit, sendPort, returnPort, timing, capture, value);
    }

    /** Returns the loop with what came back of a stem, in place of what came back of it before. */
    public Loop withShare(StemCapture value) {
        List<StemCapture> changed = new ArrayList<>(shares);
        changed.removeIf(one -> one.stem().equals(value.stem()));
        changed.add(value);
        return withShares(changed);
    }

    /** What is played of a stem, in that stem's session; empty where it has nothing of it. */
    public Optional<Capture> share() {
        return shares.stream().map(StemCapture::capture).findFirst();
    }

    /** All recordings that it has. */
    public Stream<Capture> captures() {
        return Stream.concat(capture.stream(), shares.stream().map(StemCapture::capture));
    }
}
