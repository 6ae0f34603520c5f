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
    private final Oversampler.Shape movingShape;
    private final Glide drive;
    private final Glide end;
    // Of the frames that are being processed, while they move.
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
        boolean soft = settings[SHAPE] == 0;
        shape = soft
                ? (values, frames) -> bend(values, frames, (float) drive.now(), (float) end.now())
                : (values, frames) -> clip(values, frames, (float) drive.now(), (float) end.now());
        movingShape = soft ? this::bendMoving : this::clipMoving;
    }

    private static double end(double[] settings) {
        return Decibels.toFactor(settings[REFERENCE] + ROOM_DB);
    }

    @Override
    public void move(double[] values, int frames) {
        drive.to(Decibels.toFactor(values[DRIVE]), frames);
        end.to(end(values), frames);
    }

    private static void bend(float[] values, int frames, float drive, float end) {
        float factor = factor(drive, end);
        for (int i = 0; i < frames; i++) {
            values[i] = bent(values[i] * factor, end);
        }
    }

    private void bendMoving(float[] values, int frames) {
        for (int i = 0; i < frames; i++) {
            values[i] = bent(values[i] * factor(driveRow[i], endRow[i]), endRow[i]);
        }
    }

    private static float factor(float drive, float end) {
        return drive / end * Logarithm.TWO_OVER_LN2;
    }

    /** tanh x = 1 - 2 / (e^2x + 1), with e^2x = 2^(2 x / ln 2). */
    private static float bent(float octaves, float end) {
        float power = Math.max(-Logarithm.MOST_OCTAVES, Math.min(Logarithm.MOST_OCTAVES, octaves));
        return end * (1 - 2 / (Logarithm.exp2(power) + 1));
    }

    private static void clip(float[] values, int frames, float drive, float end) {
        for (int i = 0; i < frames; i++) {
            values[i] = clipped(values[i] * drive, end);
        }
    }

    private void clipMoving(float[] values, int frames) {
        for (int i = 0; i < frames; i++) {
            values[i] = clipped(values[i] * driveRow[i], endRow[i]);
        }
    }

    private static float clipped(float value, float end) {
        return Math.max(-end, Math.min(end, value));
    }

    @Override
    public int latencyFrames() {
        return Oversampler.LATENCY_FRAMES;
    }

    @Override
    public void process(float[][] signal, float @Nullable [] @Nullable [] key, int frames) {
        boolean moving = drive.moving() || end.moving();
        if (moving) {
            drive.fill(driveRow, frames);
            end.fill(endRow, frames);
        }
        for (int p = 0; p < planes.length; p++) {
            planes[p].process(signal[p], frames, moving ? movingShape : shape);
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
