package waterwheel.core.processing;

import java.util.Arrays;
import org.jspecify.annotations.Nullable;
import waterwheel.core.units.Decibels;

/**
 * Middle and side by gains of their own, polarity and delay. A mono signal is all middle. A delay that is no whole number
 * of frames takes a filter, which needs as long again before and after: the effect is then late beyond its delay.
 */
final class StereoEffect implements Effect {
    private static final int MIDDLE = StereoTool.KIND.index("middleDb");
    private static final int SIDE = StereoTool.KIND.index("sideDb");
    private static final int POLARITY = StereoTool.KIND.index("polarity");
    private static final int DELAY = StereoTool.KIND.index("delayMs");

    private final int planes;
    /** From left to left, right to left, left to right, right to right. */
    private final Glide[] glides = new Glide[4];

    private final double[] gains = new double[4];
    private final FineDelay[] delays;

    StereoEffect(double[] settings, Site site) {
        planes = site.planes();
        gains(settings, planes, gains);
        Arrays.setAll(glides, i -> new Glide(gains[i]));
        delays = new FineDelay[planes];
        Arrays.setAll(delays, p -> new FineDelay(delayFrames(settings, site.sampleRateHz()), site.maxFrames()));
    }

    /**
     * Fills in the linear gains from left to left, right to left, left to right, and right to right: middle and side by
     * gains of their own, where middle is half the sum and side half the difference, then polarity.
     */
    static void gains(double[] settings, int planes, double[] gains) {
        double middle = Decibels.toFactor(settings[MIDDLE]);
        // A mono signal is all middle.
        double side = planes == 1 ? middle : Decibels.toFactor(settings[SIDE]);
        double same = (middle + side) / 2;
        double cross = (middle - side) / 2;
        int polarity = (int) Math.round(settings[POLARITY]);
        double left = (polarity & 1) == 1 ? -1 : 1;
        double right = (polarity & 2) == 2 ? -1 : 1;
        gains[0] = left * same;
        gains[1] = left * cross;
        gains[2] = right * cross;
        gains[3] = right * same;
    }

    @Override
    public void move(double[] values, int frames) {
        gains(values, planes, gains);
        for (int i = 0; i < gains.length; i++) {
            glides[i].to(gains[i], frames);
        }
    }

    private static double delayFrames(double[] settings, int rate) {
        return settings[DELAY] / 1_000 * rate;
    }

    static int latencyFrames(double[] settings, int rate) {
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
        if (moving()) {
            for (int i = 0; i < frames; i++) {
                float one = l[i];
                float other = r[i];
                r[i] = (float) glides[2].next() * one + (float) glides[3].next() * other;
                l[i] = (float) glides[0].next() * one + (float) glides[1].next() * other;
            }
        } else {
            final float left = (float) glides[0].now();
            final float crossLeft = (float) glides[1].now();
            final float crossRight = (float) glides[2].now();
            final float right = (float) glides[3].now();
            for (int i = 0; i < frames; i++) {
                float one = l[i];
                float other = r[i];
                r[i] = crossRight * one + right * other;
                l[i] = left * one + crossLeft * other;
            }
        }
        for (int p = 0; p < delays.length; p++) {
            delays[p].process(signal[p], frames);
        }
    }

    private boolean moving() {
        return glides[0].moving() || glides[1].moving() || glides[2].moving() || glides[3].moving();
    }

    @Override
    public void reset() {
        for (Glide glide : glides) {
            glide.arrive();
        }
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
