package waterwheel.core.processing;

import java.util.Arrays;
import java.util.stream.Stream;
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
    private static final Taps[] UP = new Taps[FACTOR];
    private static final Taps[] DOWN = new Taps[FACTOR];
    /** How many samples before a block are met, at most. */
    private static final int REACH;

    static {
        double[] filter = filter();
        // On the samples themselves a sinc is 0 but for its middle.
        UP[0] = new Taps(LATENCY_BETWEEN, (float) (FACTOR * filter[HALF]));
        DOWN[0] = new Taps(LATENCY_BETWEEN, (float) filter[HALF]);
        for (int phase = 1; phase < FACTOR; phase++) {
            UP[phase] = new Taps(0, every(filter, phase, FACTOR));
            // The values after the sample before: the later their phase, the sooner the filter meets them.
            DOWN[phase] = new Taps(1, every(filter, FACTOR - phase, 1));
        }
        REACH = Stream.concat(Arrays.stream(UP), Arrays.stream(DOWN))
                .mapToInt(Taps::reach)
                .max()
                .orElseThrow();
    }

    private final float[] low;
    private final float[][] high;
    private final float[] between;

    Oversampler(int maxFrames) {
        low = new float[REACH + maxFrames];
        high = new float[FACTOR][REACH + maxFrames];
        between = new float[maxFrames];
    }

    private static double[] filter() {
        double[] filter = new double[2 * HALF + 1];
        double sum = 0;
        for (int i = 0; i < filter.length; i++) {
            double t = (i - HALF) / (double) FACTOR;
            double sinc = t == 0 ? 1 : Math.sin(Math.PI * t) / (Math.PI * t);
            double window = Bessel.i0(BETA * Math.sqrt(1 - Math.pow((i - HALF) / (double) HALF, 2)));
            filter[i] = sinc * window;
            sum += filter[i];
        }
        for (int i = 0; i < filter.length; i++) {
            filter[i] /= sum;
        }
        return filter;
    }

    /** The taps that lie a frame apart, from one on, times a gain. */
    private static float[] every(double[] filter, int from, double gain) {
        float[] taps = new float[2 * HALF / FACTOR];
        for (int k = 0; k < taps.length; k++) {
            taps[k] = (float) (gain * filter[from + k * FACTOR]);
        }
        return taps;
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
            UP[phase].addTo(between, low, REACH, frames);
            shape.apply(between, frames);
            System.arraycopy(between, 0, high[phase], REACH, frames);
        }
        keepLatest(low, frames);
        Arrays.fill(signal, 0, frames, 0);
        for (int phase = 0; phase < FACTOR; phase++) {
            DOWN[phase].addTo(signal, high[phase], REACH, frames);
            keepLatest(high[phase], frames);
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
