package waterwheel.core.processing;

import java.util.Arrays;
import waterwheel.core.units.Bessel;

/**
 * One plane, later by any number of frames: whole ones by waiting, the rest by a Kaiser-windowed sinc (beta 8, 65 taps;
 * Laakso, Valimaki, Karjalainen, Laine, Splitting the unit delay, IEEE Signal Processing Magazine 13, 1996), flat within
 * 0.1 dB to 0.45 of the rate. One thread at a time.
 */
public final class FineDelay {
    private static final int HALF = 32;
    private static final double BETA = 8;
    /** Closer to a whole number of frames than this, no filter is worth its place. */
    private static final double WHOLE = 1e-4;

    private final DelayLine whole;
    private final Taps taps;
    private final float[] recent;
    private final float[] late;

    public FineDelay(double frames, int maxFrames) {
        double rounded = Math.rint(frames);
        boolean exact = Math.abs(frames - rounded) < WHOLE;
        whole = new DelayLine((int) (exact ? rounded : Math.floor(frames)));
        taps = new Taps(0, exact ? new float[0] : taps(frames - Math.floor(frames)));
        recent = new float[taps.reach() + maxFrames];
        late = new float[maxFrames];
    }

    /** By how much the filter is late beyond the delay that is asked for. */
    public static int latencyFrames(double frames) {
        return Math.abs(frames - Math.rint(frames)) < WHOLE ? 0 : HALF;
    }

    int latencyFrames() {
        return taps.reach() == 0 ? 0 : HALF;
    }

    /** Tap k weighs what came k frames before; the middle lies at {@code HALF + fraction}. */
    private static float[] taps(double fraction) {
        double[] exact = new double[2 * HALF + 1];
        double sum = 0;
        for (int k = 0; k < exact.length; k++) {
            double t = k - HALF - fraction;
            double edge = t / (HALF + 1);
            double window = Bessel.i0(BETA * Math.sqrt(Math.max(0, 1 - edge * edge))) / Bessel.i0(BETA);
            exact[k] = Math.sin(Math.PI * t) / (Math.PI * t) * window;
            sum += exact[k];
        }
        float[] taps = new float[exact.length];
        for (int k = 0; k < exact.length; k++) {
            taps[k] = (float) (exact[k] / sum);
        }
        return taps;
    }

    /** Processes in place. */
    public void process(float[] signal, int frames) {
        whole.process(signal, late, frames);
        if (taps.reach() == 0) {
            System.arraycopy(late, 0, signal, 0, frames);
            return;
        }
        System.arraycopy(late, 0, recent, taps.reach(), frames);
        Arrays.fill(signal, 0, frames, 0);
        taps.addTo(signal, recent, taps.reach(), frames);
        System.arraycopy(recent, frames, recent, 0, taps.reach());
    }

    void reset() {
        whole.reset();
        Arrays.fill(recent, 0);
    }

    void adopt(FineDelay other) {
        whole.adopt(other.whole);
        System.arraycopy(other.recent, 0, recent, 0, Math.min(taps.reach(), other.taps.reach()));
    }
}
