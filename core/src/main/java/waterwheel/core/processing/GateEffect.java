package waterwheel.core.processing;

import org.jspecify.annotations.Nullable;

/**
 * An expander or gate at work: what lies below the threshold is turned down by (ratio - 1) times its distance, at most by
 * the range. It opens with the attack, stays open for the hold, and closes with the release; one-pole, in dB. At rest it
 * is closed.
 */
final class GateEffect implements Effect {
    private static final int THRESHOLD = Gate.KIND.index("thresholdDb");
    private static final int RATIO = Gate.KIND.index("ratio");
    private static final int RANGE = Gate.KIND.index("rangeDb");
    private static final int ATTACK = Gate.KIND.index("attackMs");
    private static final int HOLD = Gate.KIND.index("holdMs");
    private static final int RELEASE = Gate.KIND.index("releaseMs");
    private static final int KEY_HIGH_PASS = Gate.KIND.index("keyHighPassHz");

    private final int rate;
    private final Detector detector;
    // What is wanted may step: it is followed by attack and release.
    private double threshold;
    private double ratio;
    private double range;
    private double attack;
    private double release;
    private int holdFrames;
    private double reduction;
    private int held;

    GateEffect(double[] settings, Site site) {
        rate = site.sampleRateHz();
        detector = new Detector(settings[KEY_HIGH_PASS], rate, site.planes());
        move(settings, 0);
        reduction = closed();
    }

    @Override
    public void move(double[] values, int frames) {
        detector.move(values[KEY_HIGH_PASS], frames);
        threshold = values[THRESHOLD];
        ratio = values[RATIO];
        range = values[RANGE];
        attack = GainReduction.pole(values[ATTACK] / 1_000, rate);
        release = GainReduction.pole(values[RELEASE] / 1_000, rate);
        holdFrames = (int) Math.round(values[HOLD] / 1_000 * rate);
    }

    /** By how much silence is turned down. */
    private double closed() {
        return ratio > 1 ? range : 0;
    }

    /** By how much a steady level is turned down, in dB, 0 or more. */
    static double reductionDb(double level, double threshold, double ratio, double range) {
        return Math.min(range, Math.max(0, (ratio - 1) * (threshold - level)));
    }

    @Override
    public void process(float[][] signal, float @Nullable [] @Nullable [] key, int frames) {
        float[] levels = detector.listen(signal, key, frames);
        float[] gains = Rows.single(frames)[Detector.ROWS];
        GainReduction.toDb(levels, gains, frames);
        double now = reduction;
        for (int i = 0; i < frames; i++) {
            double wanted = reductionDb(gains[i], threshold, ratio, range);
            if (wanted <= now) {
                held = holdFrames;
                now = attack * now + (1 - attack) * wanted;
            } else if (held > 0) {
                held--;
            } else {
                now = release * now + (1 - release) * wanted;
            }
            gains[i] = (float) now;
        }
        reduction = now;
        GainReduction.toGains(gains, 1, frames);
        GainReduction.apply(gains, signal, frames);
    }

    @Override
    public void reset() {
        detector.reset();
        reduction = closed();
        held = 0;
    }

    @Override
    public void adopt(Effect other) {
        if (other instanceof GateEffect before) {
            detector.adopt(before.detector);
            reduction = before.reduction;
            held = before.held;
        }
    }

    @Override
    public double reductionDb() {
        return reduction;
    }
}
