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
                ? (values, from, count) -> bend(values, from, count, (float) drive.now(), (float) end.now())
                : (values, from, count) -> clip(values, from, count, (float) drive.now(), (float) end.now());
        movingShape = (values, from, count) -> {
            for (int i = 0; i < count; i += Oversampler.FACTOR) {
                int frame = i / Oversampler.FACTOR;
                if (soft) {
                    bend(values, from + i, Oversampler.FACTOR, driveRow[frame], endRow[frame]);
                } else {
                    clip(values, from + i, Oversampler.FACTOR, driveRow[frame], endRow[frame]);
                }
            }
        };
    }

    private static double end(double[] settings) {
        return Decibels.toFactor(settings[REFERENCE] + ROOM_DB);
    }

    @Override
    public void move(double[] values, int frames) {
        drive.to(Decibels.toFactor(values[DRIVE]), frames);
        end.to(end(values), frames);
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
