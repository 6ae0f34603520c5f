package waterwheel.core.processing;

import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.Processor;
import waterwheel.core.inserts.ProcessorKind;
import waterwheel.core.inserts.SlotId;

/** Signals through processors. */
final class EffectRuns {
    private EffectRuns() {}

    /** @param pairs names of settings, each with its value behind it */
    static Processor settings(ProcessorKind kind, Object... pairs) {
        Processor made = Processor.usual(kind);
        for (int i = 0; i < pairs.length; i += 2) {
            made = made.with((String) pairs[i], ((Number) pairs[i + 1]).doubleValue());
        }
        return made;
    }

    static Insert insert(Processor processor) {
        return Insert.of(new SlotId("1"), processor.kind()).withProcessor(processor);
    }

    /** Runs signals, all of one length, through an effect in blocks; in place. */
    static float[][] run(Effect effect, int block, float[]... planes) {
        float[][] part = new float[planes.length][block];
        for (int at = 0; at < planes[0].length; at += block) {
            int count = Math.min(block, planes[0].length - at);
            for (int p = 0; p < planes.length; p++) {
                System.arraycopy(planes[p], at, part[p], 0, count);
            }
            effect.process(part, null, count);
            for (int p = 0; p < planes.length; p++) {
                System.arraycopy(part[p], 0, planes[p], at, count);
            }
        }
        return planes;
    }

    /** Its level as RMS, dBFS (AES17). */
    static double rms(float[] signal, int from, int to) {
        double sum = 0;
        for (int i = from; i < to; i++) {
            sum += (double) signal[i] * signal[i];
        }
        return 10 * Math.log10(2 * sum / (to - from));
    }
}
