package waterwheel.core.inserts;

import waterwheel.core.units.Ranges;

/**
 * A slot of a channel with what is in it.
 *
 * @param bypassed whether the signal passes by it
 * @param inputDb gain before the processor, -24 to +24 dB
 * @param outputDb gain after it, -24 to +24 dB
 * @param mix how much of the processed signal there is, from 0 (the signal as it came) to 1
 */
public record Insert(SlotId id, Processor processor, boolean bypassed, double inputDb, double outputDb, double mix) {
    public static final double GAIN_LIMIT_DB = 24;

    public Insert {
        inputDb = Ranges.checked("inputDb", inputDb, -GAIN_LIMIT_DB, GAIN_LIMIT_DB);
        outputDb = Ranges.checked("outputDb", outputDb, -GAIN_LIMIT_DB, GAIN_LIMIT_DB);
        mix = Ranges.checked("mix", mix, 0, 1);
    }

    /** A slot with a processor of the usual settings. */
    public static Insert of(SlotId id, ProcessorKind kind) {
        return new Insert(id, Processor.usual(kind), false, 0, 0, 1);
    }

    public Insert withProcessor(Processor value) {
        return new Insert(id, value, bypassed, inputDb, outputDb, mix);
    }

    public Insert withBypassed(boolean value) {
        return new Insert(id, processor, value, inputDb, outputDb, mix);
    }

    public Insert withInputDb(double value) {
        return new Insert(id, processor, bypassed, value, outputDb, mix);
    }

    public Insert withOutputDb(double value) {
        return new Insert(id, processor, bypassed, inputDb, value, mix);
    }

    public Insert withMix(double value) {
        return new Insert(id, processor, bypassed, inputDb, outputDb, value);
    }
}
