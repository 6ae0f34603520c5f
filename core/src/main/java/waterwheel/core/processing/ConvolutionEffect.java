package waterwheel.core.processing;

import java.util.Arrays;
import org.jspecify.annotations.Nullable;

/**
 * A reverb by convolution with an impulse response, left with left and right with right, late by nothing. Only the reverb
 * comes out, noise as loud as it goes in; without a response, silence.
 */
final class ConvolutionEffect implements Effect {
    private static final int PRE_DELAY = Convolution.KIND.index("preDelayMs");

    private final @Nullable Response response;
    private final Convolver[] convolvers;
    private final DelayLine[] before;
    private final float[] delayed;
    private final float gain;

    ConvolutionEffect(double[] settings, Site site) {
        response = site.response();
        int planes = site.planes();
        int maxFrames = site.maxFrames();
        convolvers = new Convolver[response == null ? 0 : planes];
        before = new DelayLine[convolvers.length];
        int preDelay = (int) Math.round(settings[PRE_DELAY] / 1_000 * site.sampleRateHz());
        for (int p = 0; response != null && p < planes; p++) {
            convolvers[p] = new Convolver(response.side(p, planes), maxFrames);
            before[p] = new DelayLine(preDelay);
        }
        delayed = new float[maxFrames];
        gain = response == null ? 0 : response.gain(planes);
    }

    /** Its only setting is one that it is built by. */
    @Override
    public void move(double[] values, int frames) {}

    @Override
    public void process(float[][] signal, float @Nullable [] @Nullable [] key, int frames) {
        if (response == null) {
            for (float[] plane : signal) {
                Arrays.fill(plane, 0, frames, 0);
            }
            return;
        }
        for (int p = 0; p < convolvers.length; p++) {
            float[] plane = signal[p];
            before[p].process(plane, delayed, frames);
            for (int i = 0; i < frames; i++) {
                plane[i] = gain * delayed[i];
            }
            convolvers[p].process(plane, frames);
        }
    }

    @Override
    public void reset() {
        for (int p = 0; p < convolvers.length; p++) {
            convolvers[p].reset();
            before[p].reset();
        }
    }

    @Override
    public long memoryBytes() {
        return Arrays.stream(convolvers).mapToLong(Convolver::memoryBytes).sum()
                + Arrays.stream(before).mapToLong(DelayLine::memoryBytes).sum();
    }

    @Override
    public void adopt(Effect other) {
        if (other instanceof ConvolutionEffect earlier
                && earlier.response == response
                && earlier.convolvers.length == convolvers.length) {
            for (int p = 0; p < convolvers.length; p++) {
                convolvers[p].adopt(earlier.convolvers[p]);
                before[p].adopt(earlier.before[p]);
            }
        }
    }
}
