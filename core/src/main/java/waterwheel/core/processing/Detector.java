package waterwheel.core.processing;

import java.util.Arrays;
import org.jspecify.annotations.Nullable;

/**
 * What a dynamics processor listens to: the signal or its key through a high-pass, all planes together, as a level. One
 * thread at a time.
 */
final class Detector {
    private final float[][] heard;
    private final float[] levels;
    private final @Nullable Biquad highPass;
    private final Biquad.State filter = new Biquad.State();
    /** Above 10 Hz, where the setting begins, the filter is in use. */
    private static final double OFF_HERTZ = 10;

    Detector(double highPassHz, int rate, int planes, int maxFrames) {
        heard = new float[planes][maxFrames];
        levels = new float[maxFrames];
        highPass = highPassHz > OFF_HERTZ ? Biquad.highPass(highPassHz, Math.sqrt(0.5), rate) : null;
    }

    /** The magnitude of the loudest plane of each frame, linear; the detector's own array. */
    float[] listen(float[][] signal, float @Nullable [] @Nullable [] key, int frames) {
        Arrays.fill(levels, 0, frames, 0);
        for (int p = 0; p < heard.length; p++) {
            float[] from = key == null ? signal[p] : key[Math.min(p, key.length - 1)];
            if (from != null) {
                System.arraycopy(from, 0, heard[p], 0, frames);
            }
        }
        if (highPass != null) {
            if (heard.length == 2) {
                filter.stereo(highPass, heard[0], heard[1], frames);
            } else {
                filter.mono(highPass, heard[0], frames);
            }
        }
        for (float[] plane : heard) {
            for (int i = 0; i < frames; i++) {
                levels[i] = Math.max(levels[i], Math.abs(plane[i]));
            }
        }
        return levels;
    }

    void reset() {
        filter.reset();
    }

    void adopt(Detector other) {
        filter.adopt(other.filter);
    }
}
