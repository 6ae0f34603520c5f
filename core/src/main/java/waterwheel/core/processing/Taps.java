package waterwheel.core.processing;

import java.util.Arrays;

/**
 * The taps of a filter of finite length. What some of them meet is copied into rows of its own first: only so is the loop
 * that weighs it compiled to vector instructions, which take a sixth of the time.
 */
final class Taps {
    /** So many are weighed in one loop. */
    private static final int TOGETHER = 4;

    private final float[] taps;
    private final int first;

    /**
     * @param first how many frames before the first weighs what came
     * @param taps each weighs what came a frame before what the one before it does
     */
    Taps(int first, float... taps) {
        this.first = first;
        // Those beyond the filter's end stay 0.
        this.taps = Arrays.copyOf(taps, Math.ceilDiv(taps.length, TOGETHER) * TOGETHER);
    }

    /** How many samples up to the newest are met, at most. */
    int reach() {
        return taps.length == 0 ? 0 : first + taps.length;
    }

    /**
     * Adds what the taps give for each of some frames. Works in the thread's {@link Rows}.
     *
     * @param met the samples, {@link #reach()} of them up to the first frame's newest
     * @param newest where the first frame's newest lies
     */
    void addTo(float[] sum, float[] met, int newest, int frames) {
        float[][] rows = Rows.single(frames);
        for (int k = 0; k < taps.length; k += TOGETHER) {
            for (int t = 0; t < TOGETHER; t++) {
                System.arraycopy(met, newest - first - k - t, rows[t], 0, frames);
            }
            weigh(sum, rows[0], rows[1], rows[2], rows[3], k, frames);
        }
    }

    private void weigh(float[] sum, float[] x0, float[] x1, float[] x2, float[] x3, int tap, int frames) {
        final float a = taps[tap];
        final float b = taps[tap + 1];
        final float c = taps[tap + 2];
        final float d = taps[tap + 3];
        for (int i = 0; i < frames; i++) {
            sum[i] = Math.fma(d, x3[i], Math.fma(c, x2[i], Math.fma(b, x1[i], Math.fma(a, x0[i], sum[i]))));
        }
    }
}
