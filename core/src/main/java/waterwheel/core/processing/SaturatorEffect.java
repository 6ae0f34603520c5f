package waterwheel.core.processing;

import org.jspecify.annotations.Nullable;
import waterwheel.core.inserts.Processor;
import waterwheel.core.units.Decibels;

/**
 * A saturator at work, at four times the rate. It bends towards a level 18 dB above its reference: softly by a hyperbolic
 * tangent, or with a hard corner.
 */
final class SaturatorEffect implements Effect {
    private static final double ROOM_DB = 18;

    private final Oversampler[] planes;
    private final Oversampler.Shape shape;

    SaturatorEffect(Processor settings, int planeCount, int maxFrames) {
        planes = new Oversampler[planeCount];
        for (int p = 0; p < planeCount; p++) {
            planes[p] = new Oversampler(maxFrames);
        }
        float drive = (float) Decibels.toFactor(settings.value("driveDb"));
        float end = (float) Decibels.toFactor(settings.value("referenceDbfs") + ROOM_DB);
        shape = settings.choice("shape") == 0
                ? (values, from, count) -> bend(values, from, count, drive, end)
                : (values, from, count) -> clip(values, from, count, drive, end);
    }

    /** What the crest of a steady tone becomes, in dBFS; the shape alone, without the filters around it. */
    static double outputDb(Processor settings, double inputDb) {
        double end = Decibels.toFactor(settings.value("referenceDbfs") + ROOM_DB);
        double driven = Decibels.toFactor(inputDb + settings.value("driveDb"));
        return Decibels.ofFactor(settings.choice("shape") == 0 ? end * Math.tanh(driven / end) : Math.min(end, driven));
    }

    private static void bend(float[] values, int from, int count, float drive, float end) {
        // tanh x = 1 - 2 / (e^2x + 1), with e^2x = 2^(2 x / ln 2).
        float factor = drive / end * Logarithm.TWO_OVER_LN2;
        for (int i = from; i < from + count; i++) {
            float power = Math.max(-Logarithm.MOST_OCTAVES, Math.min(Logarithm.MOST_OCTAVES, values[i] * factor));
            values[i] = end * (1 - 2 / (Logarithm.exp2(power) + 1));
        }
    }

    private static void clip(float[] values, int from, int count, float drive, float end) {
        for (int i = from; i < from + count; i++) {
            values[i] = Math.max(-end, Math.min(end, values[i] * drive));
        }
    }

    @Override
    public int latencyFrames() {
        return Oversampler.LATENCY_FRAMES;
    }

    @Override
    public void process(float[][] signal, float @Nullable [] @Nullable [] key, int frames) {
        for (int p = 0; p < planes.length; p++) {
            planes[p].process(signal[p], frames, shape);
        }
    }

    @Override
    public void reset() {
        for (Oversampler plane : planes) {
            plane.reset();
        }
    }

    @Override
    public void adopt(Effect other) {
        if (other instanceof SaturatorEffect before) {
            for (int p = 0; p < Math.min(planes.length, before.planes.length); p++) {
                planes[p].adopt(before.planes[p]);
            }
        }
    }
}
