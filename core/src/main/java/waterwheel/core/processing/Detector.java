package waterwheel.core.processing;

import java.util.Arrays;
import org.jspecify.annotations.Nullable;

/**
 * What a dynamics processor listens to: the signal or its key through a high-pass, all planes together, as a level. One
 * thread at a time.
 */
final class Detector {
    /** Above 10 Hz, where the setting begins, the filter is in use. */
    private static final double OFF_HERTZ = 10;

    /** So many of the thread's {@link Rows#single} are the detector's until its levels are no longer needed. */
    static final int ROWS = 3;

    private static final int LEVELS = 2;

    private final float[][] heard;
    private final FilterChain highPass = new FilterChain(1);
    private final int rate;
    private double presentHz = Double.NaN;

    Detector(double highPassHz, int rate, int planes) {
        heard = new float[planes][];
        this.rate = rate;
        move(highPassHz, 0);
    }

    /** Has the high-pass go elsewhere, there after so many frames. */
    void move(double highPassHz, int frames) {
        if (highPassHz == presentHz) {
            return;
        }
        presentHz = highPassHz;
        if (highPassHz > OFF_HERTZ) {
            Biquad.highPass(highPass.goal(), 0, highPassHz, Math.sqrt(0.5), rate);
        } else {
            Biquad.flat(highPass.goal(), 0);
        }
        highPass.move(0, frames);
    }

    /** The magnitude of the loudest plane of each frame, linear; in one of the thread's rows. */
    float[] listen(float[][] signal, float @Nullable [] @Nullable [] key, int frames) {
        float[][] rows = Rows.single(frames);
        for (int p = 0; p < heard.length; p++) {
            heard[p] = rows[p];
            float[] from = key == null ? signal[p] : key[p];
            if (from == null) {
                Arrays.fill(heard[p], 0, frames, 0);
            } else {
                System.arraycopy(from, 0, heard[p], 0, frames);
            }
        }
        highPass.process(heard, frames);
        final float[] levels = rows[LEVELS];
        final float[] first = heard[0];
        for (int i = 0; i < frames; i++) {
            levels[i] = Math.abs(first[i]);
        }
        for (int p = 1; p < heard.length; p++) {
            float[] plane = heard[p];
            for (int i = 0; i < frames; i++) {
                levels[i] = Math.max(levels[i], Math.abs(plane[i]));
            }
        }
        return levels;
    }

    void reset() {
        highPass.reset();
    }

    void adopt(Detector other) {
        highPass.adopt(other.highPass);
    }
}
