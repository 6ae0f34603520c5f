package waterwheel.core.processing;

import java.util.Arrays;
import waterwheel.core.units.Bessel;

/**
 * Four times the rate and back, for one plane: Kaiser-windowed sincs (beta 8) of 97 taps, linear phase, together later by
 * 24 frames. Flat within 0.02 dB to 0.4 of the rate, and the images and aliases of what lies there 60 dB down, 80 dB to
 * 0.38 of the rate. One thread at a time.
 *
 * <p>The values between the samples are worked at by phase, a quarter of a frame apart, each phase in an array of its own
 * at the signal's rate (polyphase; Crochiere, Rabiner, Multirate digital signal processing, 1983). On the samples
 * themselves a sinc is 0 but for its middle, so that their phase is the signal, later.
 */
final class Oversampler {
    static final int FACTOR = 4;
    static final int LATENCY_FRAMES = 24;
    /** By how many frames the values between the samples are late. */
    static final int LATENCY_BETWEEN = LATENCY_FRAMES / 2;

    private static final int HALF = LATENCY_BETWEEN * FACTOR;
    private static final double BETA = 8;
    private static final Taps[] UP = byPhase(FACTOR);
    private static final Taps[] DOWN = byPhase(1);
    /** How many of the samples before a block it meets: on the way down a phase lies up to a frame earlier. */
    private static final int REACH = 1 + Math.max(UP[1].reach(), LATENCY_BETWEEN + UP[0].reach());

    private final float[] low;
    private final float[][] high;
    private final float[] between;

    Oversampler(int maxFrames) {
        low = new float[REACH + maxFrames];
        high = new float[FACTOR][REACH + maxFrames];
        between = new float[maxFrames];
    }

    /** The filter's taps by phase; of the one on the samples only the middle. */
    private static Taps[] byPhase(double gain) {
        double[] filter = new double[2 * HALF + 1];
        double sum = 0;
        for (int i = 0; i < filter.length; i++) {
            double t = (i - HALF) / (double) FACTOR;
            double sinc = t == 0 ? 1 : Math.sin(Math.PI * t) / (Math.PI * t);
            double window = Bessel.i0(BETA * Math.sqrt(1 - Math.pow((i - HALF) / (double) HALF, 2)));
            filter[i] = sinc * window;
            sum += filter[i];
        }
        Taps[] phases = new Taps[FACTOR];
        phases[0] = new Taps(new float[] {(float) (gain * filter[HALF] / sum)});
        for (int phase = 1; phase < FACTOR; phase++) {
            float[] taps = new float[2 * HALF / FACTOR];
            for (int k = 0; k < taps.length; k++) {
                taps[k] = (float) (gain * filter[phase + k * FACTOR] / sum);
            }
            phases[phase] = new Taps(taps);
        }
        return phases;
    }

    /** Shapes the values of one phase, one of each frame. */
    interface Shape {
        void apply(float[] values, int frames);
    }

    /** Takes the signal up, has it shaped, and brings it down again, in place. */
    void process(float[] signal, int frames, Shape shape) {
        System.arraycopy(signal, 0, low, REACH, frames);
        for (int phase = 0; phase < FACTOR; phase++) {
            Arrays.fill(between, 0, frames, 0);
            UP[phase].addTo(between, low, phase == 0 ? REACH - LATENCY_BETWEEN : REACH, frames);
            shape.apply(between, frames);
            System.arraycopy(between, 0, high[phase], REACH, frames);
        }
        keepLatest(low, frames);
        Arrays.fill(signal, 0, frames, 0);
        DOWN[0].addTo(signal, high[0], REACH - LATENCY_BETWEEN, frames);
        for (int phase = 1; phase < FACTOR; phase++) {
            // The values after the sample before: the later their phase, the sooner the filter meets them.
            DOWN[FACTOR - phase].addTo(signal, high[phase], REACH - 1, frames);
        }
        for (float[] row : high) {
            keepLatest(row, frames);
        }
    }

    private static void keepLatest(float[] row, int frames) {
        System.arraycopy(row, frames, row, 0, REACH);
    }

    void reset() {
        Arrays.fill(low, 0);
        for (float[] row : high) {
            Arrays.fill(row, 0);
        }
    }

    void adopt(Oversampler other) {
        System.arraycopy(other.low, 0, low, 0, REACH);
        for (int phase = 0; phase < FACTOR; phase++) {
            System.arraycopy(other.high[phase], 0, high[phase], 0, REACH);
        }
    }
}
