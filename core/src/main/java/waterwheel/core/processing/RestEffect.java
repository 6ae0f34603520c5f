package waterwheel.core.processing;

import org.jspecify.annotations.Nullable;

/** A wait for a fraction of a frame. */
final class RestEffect implements Effect {
    private final FineDelay[] delays;

    RestEffect(double frames, Site site) {
        delays = new FineDelay[site.planes()];
        for (int p = 0; p < delays.length; p++) {
            delays[p] = new FineDelay(frames, site.maxFrames());
        }
    }

    @Override
    public int latencyFrames() {
        return delays[0].latencyFrames();
    }

    @Override
    public void process(float[][] signal, float @Nullable [] @Nullable [] key, int frames) {
        for (int p = 0; p < delays.length; p++) {
            delays[p].process(signal[p], frames);
        }
    }

    /** All of its settings are what it is built by. */
    @Override
    public void move(double[] values, int frames) {}

    @Override
    public void reset() {
        for (FineDelay delay : delays) {
            delay.reset();
        }
    }

    @Override
    public void adopt(Effect other) {
        if (other instanceof RestEffect before) {
            for (int p = 0; p < Math.min(delays.length, before.delays.length); p++) {
                delays[p].adopt(before.delays[p]);
            }
        }
    }
}
