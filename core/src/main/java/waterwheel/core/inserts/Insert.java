package waterwheel.core.inserts;

import java.util.ArrayList;
import java.util.List;
import waterwheel.core.rack.Loop;
import waterwheel.core.rides.Control;
import waterwheel.core.rides.Ridable;
import waterwheel.core.rides.Rides;
import waterwheel.core.rides.Scale;
import waterwheel.core.units.Ranges;

/**
 * A slot of a channel with what is in it.
 *
 * @param bypassed whether the signal passes by it
 * @param inputDb gain before the processor, -24 to +24 dB
 * @param outputDb gain after it, -24 to +24 dB
 * @param mix how much of the processed signal there is, from 0 (the signal as it came) to 1
 * @param rides of bypass, gains, mix and the processor's parameters
 */
public record Insert(
        SlotId id, Processor processor, boolean bypassed, double inputDb, double outputDb, double mix, Rides rides)
        implements Ridable {
    public static final double GAIN_LIMIT_DB = 24;
    public static final Control BYPASSED = new Control("bypassed", "Bypass", "", 0, 1, Scale.SWITCH);
    public static final Control INPUT =
            new Control("inputDb", "Input gain", "dB", -GAIN_LIMIT_DB, GAIN_LIMIT_DB, Scale.PLAIN);
    public static final Control OUTPUT =
            new Control("outputDb", "Output gain", "dB", -GAIN_LIMIT_DB, GAIN_LIMIT_DB, Scale.PLAIN);
    public static final Control MIX = new Control("mix", "Mix", "", 0, 1, Scale.PLAIN);

    public Insert {
        inputDb = Ranges.checked("inputDb", inputDb, -GAIN_LIMIT_DB, GAIN_LIMIT_DB);
        outputDb = Ranges.checked("outputDb", outputDb, -GAIN_LIMIT_DB, GAIN_LIMIT_DB);
        mix = Ranges.checked("mix", mix, 0, 1);
    }

    /** A slot without rides. */
    public Insert(SlotId id, Processor processor, boolean bypassed, double inputDb, double outputDb, double mix) {
        this(id, processor, bypassed, inputDb, outputDb, mix, Rides.NONE);
    }

    /** What of a slot can be ridden: not what the processor is built by. */
    public List<Control> controls() {
        List<Control> all = new ArrayList<>(List.of(BYPASSED, INPUT, OUTPUT, MIX));
        processor.kind().parameters().stream()
                .filter(parameter -> !parameter.built())
                .map(Parameter::control)
                .forEach(all::add);
        return all;
    }

    @Override
    public double value(String key) {
        return switch (key) {
            case "bypassed" -> bypassed ? 1 : 0;
            case "inputDb" -> inputDb;
            case "outputDb" -> outputDb;
            case "mix" -> mix;
            default -> processor.value(key);
        };
    }

    @Override
    public Insert with(String key, double value) {
        return switch (key) {
            case "bypassed" -> withBypassed(value >= 0.5);
            case "inputDb" -> withInputDb(INPUT.limited(value));
            case "outputDb" -> withOutputDb(OUTPUT.limited(value));
            case "mix" -> withMix(MIX.limited(value));
            default -> withProcessor(processor.with(key, value));
        };
    }

    /** Whether the signal runs through it, now or at some time. A loop takes its time while it is bypassed too. */
    public boolean runs() {
        return !bypassed
                || processor.kind().loops()
                || rides.active(BYPASSED.key()).isPresent();
    }

    @Override
    public Insert withRides(Rides value) {
        return new Insert(id, processor, bypassed, inputDb, outputDb, mix, value);
    }

    /** The song's frame before which another slot does the same to a signal; {@link Long#MAX_VALUE} where it always does. */
    public long sameUntil(Insert other) {
        return withRides(other.rides).equals(other) ? rides.sameUntil(other.rides) : 0;
    }

    /** A slot with a processor of the usual settings. */
    public static Insert of(SlotId id, ProcessorKind kind) {
        return new Insert(id, Processor.usual(kind), false, 0, 0, 1);
    }

    public Insert withProcessor(Processor value) {
        return new Insert(id, value, bypassed, inputDb, outputDb, mix, rides);
    }

    public Insert withLoop(Loop value) {
        return withProcessor(processor.withLoop(value));
    }

    public Insert withBypassed(boolean value) {
        return new Insert(id, processor, value, inputDb, outputDb, mix, rides);
    }

    public Insert withInputDb(double value) {
        return new Insert(id, processor, bypassed, value, outputDb, mix, rides);
    }

    public Insert withOutputDb(double value) {
        return new Insert(id, processor, bypassed, inputDb, value, mix, rides);
    }

    public Insert withMix(double value) {
        return new Insert(id, processor, bypassed, inputDb, outputDb, value, rides);
    }
}
