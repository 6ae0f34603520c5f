package waterwheel.core.processing;

import java.util.Arrays;
import org.jspecify.annotations.Nullable;
import waterwheel.core.inserts.Processor;

/**
 * Middle and side by gains of their own, polarity and delay. A mono signal is all middle. A delay that is no whole number
 * of frames takes a filter, which needs as long again before and after: the effect is then late beyond its delay.
 */
final class StereoEffect implements Effect {
    private final float left;
    private final float crossLeft;
    private final float crossRight;
    private final float right;
    private final FineDelay[] delays;

    StereoEffect(Processor settings, int rate, int planes, int maxFrames) {
        // A mono signal is all middle.
        Processor fitting = planes == 1 ? settings.with("sideDb", settings.value("middleDb")) : settings;
        double[][] gains = StereoTool.gains(fitting);
        left = (float) gains[0][0];
        crossLeft = (float) gains[0][1];
        crossRight = (float) gains[1][0];
        right = (float) gains[1][1];
        delays = new FineDelay[planes];
        Arrays.setAll(delays, p -> new FineDelay(delayFrames(settings, rate), maxFrames));
    }

    private static double delayFrames(Processor settings, int rate) {
        return settings.value("delayMs") / 1_000 * rate;
    }

    static int latencyFrames(Processor settings, int rate) {
        return FineDelay.latencyFrames(delayFrames(settings, rate));
    }

    @Override
    public int latencyFrames() {
        return delays[0].latencyFrames();
    }

    @Override
    public void process(float[][] signal, float @Nullable [] @Nullable [] key, int frames) {
        float[] l = signal[0];
        float[] r = signal[signal.length - 1];
        for (int i = 0; i < frames; i++) {
            float one = l[i];
            float other = r[i];
            r[i] = crossRight * one + right * other;
            l[i] = left * one + crossLeft * other;
        }
        for (int p = 0; p < delays.length; p++) {
            delays[p].process(signal[p], frames);
        }
    }

    @Override
    public void reset() {
        for (FineDelay line : delays) {
            line.reset();
        }
    }

    @Override
    public void adopt(Effect other) {
        if (other instanceof StereoEffect before) {
            for (int p = 0; p < Math.min(delays.length, before.delays.length); p++) {
                delays[p].adopt(before.delays[p]);
            }
        }
    }
}
