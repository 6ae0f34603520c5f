package waterwheel.core.processing;

import java.util.Arrays;
import waterwheel.core.units.Bessel;

/**
 * Four times the rate and back, for one plane: Kaiser-windowed sincs (beta 8) of 65 taps, linear phase, together later by
 * 16 frames. Flat within 0.1 dB to 0.4 of the rate; images and aliases more than 70 dB down. One thread at a time.
 */
final class Oversampler {
    static final int FACTOR = 4;
    static final int LATENCY_FRAMES = 16;

    private static final int HALF = 32;
    private static final int TAPS = 2 * HALF + 1;
    private static final int TAPS_PER_PHASE = HALF * 2 / FACTOR;
    private static final double BETA = 8;
    private static final float[] FILTER = filter();

    private final float[] low;
    private final float[] high;

    Oversampler(int maxFrames) {
        low = new float[TAPS_PER_PHASE + maxFrames];
        high = new float[TAPS - 1 + FACTOR * maxFrames];
    }

    private static float[] filter() {
        float[] taps = new float[TAPS];
        double sum = 0;
        for (int i = 0; i < TAPS; i++) {
            double t = (i - HALF) / (double) FACTOR;
            double sinc = t == 0 ? 1 : Math.sin(Math.PI * t) / (Math.PI * t);
            double window = Bessel.i0(BETA * Math.sqrt(1 - Math.pow((i - HALF) / (double) HALF, 2)));
            taps[i] = (float) (sinc * window);
            sum += taps[i];
        }
        for (int i = 0; i < TAPS; i++) {
            taps[i] /= (float) sum;
        }
        return taps;
    }

    /** Shapes oversampled values. */
    interface Shape {
        void apply(float[] values, int from, int count);
    }

    /** Takes the signal up, has it shaped, and brings it down again, in place. */
    void process(float[] signal, int frames, Shape shape) {
        System.arraycopy(signal, 0, low, TAPS_PER_PHASE, frames);
        for (int i = 0; i < frames; i++) {
            for (int phase = 0; phase < FACTOR; phase++) {
                float sum = 0;
                int newest = TAPS_PER_PHASE + i;
                for (int k = phase, back = 0; k < TAPS; k += FACTOR, back++) {
                    sum += FILTER[k] * low[newest - back];
                }
                high[TAPS - 1 + FACTOR * i + phase] = FACTOR * sum;
            }
        }
        System.arraycopy(low, frames, low, 0, TAPS_PER_PHASE);
        shape.apply(high, TAPS - 1, FACTOR * frames);
        for (int i = 0; i < frames; i++) {
            float sum = 0;
            int newest = TAPS - 1 + FACTOR * i;
            for (int k = 0; k < TAPS; k++) {
                sum += FILTER[k] * high[newest - k];
            }
            signal[i] = sum;
        }
        System.arraycopy(high, FACTOR * frames, high, 0, TAPS - 1);
    }

    void reset() {
        Arrays.fill(low, 0);
        Arrays.fill(high, 0);
    }

    void adopt(Oversampler other) {
        System.arraycopy(other.low, 0, low, 0, TAPS_PER_PHASE);
        System.arraycopy(other.high, 0, high, 0, TAPS - 1);
    }
}
