package waterwheel.core.processing;

import java.util.Arrays;
import org.jspecify.annotations.Nullable;
import waterwheel.core.metering.TruePeakTaps;
import waterwheel.core.units.Decibels;

/**
 * A look-ahead limiter at work. The true peak of each frame (BS.1770-5 Annex 2, all planes together) asks for a gain;
 * the least of the look-ahead is taken, let go with the release, and averaged over the look-ahead: so the gain is down
 * where the peak is, and gets there without a step. What the moving gain adds between the samples is the only thing that
 * can pass the ceiling.
 */
final class LimiterEffect implements Effect {
    private static final int CEILING = Limiter.KIND.index("ceilingDb");
    private static final int DRIVE = Limiter.KIND.index("gainDb");
    private static final int LOOK_AHEAD = Limiter.KIND.index("lookAheadMs");
    private static final int RELEASE = Limiter.KIND.index("releaseMs");

    private final int rate;
    private final Glide drive;
    private final float[] driveRow;
    /** A plane of what is listened to instead of the signal, driven. */
    private final float[] keyed;
    /** A step of it is averaged over the look-ahead like any other change of the gain. */
    private float ceiling;

    private double release;
    private final int window;
    private final float[][] taps;
    private final DelayLine[] delays;
    private final float[][] history;
    private final float[][] delayed;
    private final float[] gains;
    private final SlidingLeast least;
    private final float[] averaged;
    private double sum;
    private int at;
    private double let;

    LimiterEffect(double[] settings, Site site) {
        rate = site.sampleRateHz();
        int planes = site.planes();
        int maxFrames = site.maxFrames();
        drive = new Glide(Decibels.toFactor(settings[DRIVE]));
        driveRow = new float[maxFrames];
        keyed = new float[maxFrames];
        move(settings, 0);
        window = window(settings, rate);
        taps = TruePeakTaps.of(rate);
        delays = new DelayLine[planes];
        for (int p = 0; p < planes; p++) {
            delays[p] = new DelayLine(latencyFrames(settings, rate));
        }
        history = new float[planes][TruePeakTaps.TAPS + maxFrames];
        delayed = new float[planes][maxFrames];
        gains = new float[maxFrames];
        least = new SlidingLeast(window);
        averaged = new float[window];
        reset();
    }

    @Override
    public void move(double[] values, int frames) {
        drive.to(Decibels.toFactor(values[DRIVE]), frames);
        ceiling = (float) Decibels.toFactor(values[CEILING]);
        release = GainReduction.pole(values[RELEASE] / 1_000, rate);
    }

    private static int window(double[] settings, int rate) {
        return Math.max(1, (int) Math.round(settings[LOOK_AHEAD] / 1_000 * rate));
    }

    static int latencyFrames(double[] settings, int rate) {
        return latencyFrames(window(settings, rate));
    }

    @Override
    public int latencyFrames() {
        return latencyFrames(window);
    }

    private static int latencyFrames(int window) {
        return TruePeakTaps.TAPS / 2 + window - 1;
    }

    @Override
    public void process(float[][] signal, float @Nullable [] @Nullable [] key, int frames) {
        Arrays.fill(gains, 0, frames, 0);
        drive.fill(driveRow, frames);
        for (int p = 0; p < delays.length; p++) {
            float[] plane = signal[p];
            multiply(plane, plane, driveRow, frames);
            float[] heard = key == null ? null : key[p];
            if (heard == null) {
                System.arraycopy(plane, 0, history[p], TruePeakTaps.TAPS, frames);
            } else {
                multiply(heard, keyed, driveRow, frames);
                System.arraycopy(keyed, 0, history[p], TruePeakTaps.TAPS, frames);
            }
            findPeaks(history[p], frames);
            System.arraycopy(history[p], frames, history[p], 0, TruePeakTaps.TAPS);
            delays[p].process(plane, delayed[p], frames);
        }
        for (int i = 0; i < frames; i++) {
            gains[i] = next(gains[i] > ceiling ? ceiling / gains[i] : 1);
        }
        for (int p = 0; p < delays.length; p++) {
            float[] plane = signal[p];
            float[] late = delayed[p];
            for (int i = 0; i < frames; i++) {
                plane[i] = late[i] * gains[i];
            }
        }
    }

    private static void multiply(float[] in, float[] out, float[] gains, int frames) {
        for (int i = 0; i < frames; i++) {
            out[i] = in[i] * gains[i];
        }
    }

    /** The magnitude at and after the sample half the taps ago, for each frame, kept where it is the largest. */
    private void findPeaks(float[] x, int frames) {
        int half = TruePeakTaps.TAPS / 2;
        for (int i = 0; i < frames; i++) {
            int newest = TruePeakTaps.TAPS + i;
            float most = Math.max(gains[i], Math.abs(x[newest - half]));
            // Where the neighbourhood is far below the ceiling nothing between the samples reaches it.
            if (Math.max(Math.abs(x[newest - half]), Math.abs(x[newest - half + 1])) * 4 > ceiling) {
                for (float[] phase : taps) {
                    float sum = 0;
                    for (int k = 0; k < phase.length; k++) {
                        sum += phase[k] * x[newest - k];
                    }
                    most = Math.max(most, Math.abs(sum));
                }
            }
            gains[i] = most;
        }
    }

    private float next(float wanted) {
        float lowest = least.next(wanted);
        let = lowest < let ? lowest : release * let + (1 - release) * lowest;
        // What is added is what will be taken off again, or the sum would drift.
        float now = (float) let;
        sum += (double) now - averaged[at];
        averaged[at] = now;
        at = at + 1 == window ? 0 : at + 1;
        return (float) Math.min(1, sum / window);
    }

    @Override
    public void reset() {
        for (int p = 0; p < delays.length; p++) {
            delays[p].reset();
            Arrays.fill(history[p], 0);
        }
        drive.arrive();
        least.reset();
        Arrays.fill(averaged, 1);
        sum = window;
        at = 0;
        let = 1;
    }

    @Override
    public void adopt(Effect other) {
        if (other instanceof LimiterEffect before && before.window == window && before.delays.length == delays.length) {
            for (int p = 0; p < delays.length; p++) {
                delays[p].adopt(before.delays[p]);
                System.arraycopy(before.history[p], 0, history[p], 0, TruePeakTaps.TAPS);
            }
            least.adopt(before.least);
            System.arraycopy(before.averaged, 0, averaged, 0, window);
            sum = before.sum;
            at = before.at;
            let = before.let;
        }
    }

    @Override
    public double reductionDb() {
        return -Decibels.ofFactor(Math.min(1, sum / window));
    }
}
