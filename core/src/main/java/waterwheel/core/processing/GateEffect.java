package waterwheel.core.processing;

import org.jspecify.annotations.Nullable;
import waterwheel.core.inserts.Processor;

/**
 * An expander or gate at work: what lies below the threshold is turned down by (ratio - 1) times its distance, at most by
 * the range. It opens with the attack, stays open for the hold, and closes with the release; one-pole, in dB. At rest it
 * is closed.
 */
final class GateEffect implements Effect {
    private final Detector detector;
    private final double threshold;
    private final double ratio;
    private final double range;
    private final double attack;
    private final double release;
    private final int holdFrames;
    private final float[] gains;
    /** By how much silence is turned down. */
    private final double closed;

    private double reduction;
    private int held;

    GateEffect(Processor settings, int rate, int planes, int maxFrames) {
        detector = new Detector(settings.value("keyHighPassHz"), rate, planes, maxFrames);
        threshold = settings.value("thresholdDb");
        ratio = settings.value("ratio");
        range = settings.value("rangeDb");
        attack = GainReduction.pole(settings.value("attackMs") / 1_000, rate);
        release = GainReduction.pole(settings.value("releaseMs") / 1_000, rate);
        holdFrames = (int) Math.round(settings.value("holdMs") / 1_000 * rate);
        gains = new float[maxFrames];
        closed = ratio > 1 ? range : 0;
        reduction = closed;
    }

    /** By how much a steady level is turned down, in dB, 0 or more. */
    static double reductionDb(double level, double threshold, double ratio, double range) {
        return Math.min(range, Math.max(0, (ratio - 1) * (threshold - level)));
    }

    @Override
    public void process(float[][] signal, float @Nullable [] @Nullable [] key, int frames) {
        float[] levels = detector.listen(signal, key, frames);
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
        reduction = closed;
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
