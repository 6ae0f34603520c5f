package waterwheel.core.processing;

import org.jspecify.annotations.Nullable;
import waterwheel.core.units.Decibels;

/**
 * A saturator at work, at four times the rate. It bends towards a level 18 dB above its reference: softly by a hyperbolic
 * tangent, or with a hard corner.
 */
final class SaturatorEffect implements Effect {
    static final double ROOM_DB = 18;
    private static final int DRIVE = Saturator.KIND.index("driveDb");
    private static final int REFERENCE = Saturator.KIND.index("referenceDbfs");
    private static final int SHAPE = Saturator.KIND.index("shape");

    private final Oversampler[] planes;
    private final Oversampler.Shape shape;
    private final boolean soft;
    private final Glide drive;
    private final Glide end;
    /** What the values of each frame are multiplied by before they are shaped. */
    private final float[] driveRow;

    private final float[] endRow;

    SaturatorEffect(double[] settings, Site site) {
        planes = new Oversampler[site.planes()];
        for (int p = 0; p < planes.length; p++) {
            planes[p] = new Oversampler(site.maxFrames());
        }
        drive = new Glide(Decibels.toFactor(settings[DRIVE]));
        end = new Glide(end(settings));
        driveRow = new float[site.maxFrames()];
        endRow = new float[site.maxFrames()];
        soft = settings[SHAPE] == 0;
        shape = soft ? this::bend : this::clip;
    }

    private static double end(double[] settings) {
        return Decibels.toFactor(settings[REFERENCE] + ROOM_DB);
    }

    @Override
    public void move(double[] values, int frames) {
        drive.to(Decibels.toFactor(values[DRIVE]), frames);
        end.to(end(values), frames);
    }

    /** tanh x = 1 - 2 / (e^2x + 1), with e^2x = 2^(2 x / ln 2). */
    private void bend(float[] values, int frames) {
        for (int i = 0; i < frames; i++) {
            float octaves = values[i] * driveRow[i];
            float power = Math.max(-Logarithm.MOST_OCTAVES, Math.min(Logarithm.MOST_OCTAVES, octaves));
            values[i] = endRow[i] * (1 - 2 / (Logarithm.exp2(power) + 1));
        }
    }

    private void clip(float[] values, int frames) {
        for (int i = 0; i < frames; i++) {
            values[i] = Math.max(-endRow[i], Math.min(endRow[i], values[i] * driveRow[i]));
        }
    }

    @Override
    public int latencyFrames() {
        return Oversampler.LATENCY_FRAMES;
    }

    @Override
    public void process(float[][] signal, float @Nullable [] @Nullable [] key, int frames) {
        drive.fill(driveRow, frames);
        end.fill(endRow, frames);
        if (soft) {
            for (int i = 0; i < frames; i++) {
                driveRow[i] = driveRow[i] / endRow[i] * Logarithm.TWO_OVER_LN2;
            }
        }
        for (int p = 0; p < planes.length; p++) {
            planes[p].process(signal[p], frames, shape);
        }
    }

    @Override
    public void reset() {
        drive.arrive();
        end.arrive();
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
