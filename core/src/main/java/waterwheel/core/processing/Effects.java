package waterwheel.core.processing;

import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.Processor;

/** Starts what is in slots. */
public final class Effects {
    private Effects() {}

    /** Starts what is in a slot, with its mix and its output gain; the input gain is applied before it. */
    public static SlotEffect start(Insert insert, Site site) {
        Processor processor = insert.processor();
        return new SlotEffect(Processors.of(processor.kind()).start(processor, site), insert, site);
    }

    /** By how many frames a processor with these settings is late. */
    public static int latencyFrames(Processor processor, int sampleRateHz) {
        return Processors.of(processor.kind()).latencyFrames(processor, sampleRateHz);
    }
}
