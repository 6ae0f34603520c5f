package waterwheel.core.processing;

import java.util.Arrays;
import org.jspecify.annotations.Nullable;
import waterwheel.core.inserts.Processor;
import waterwheel.core.units.Decibels;

/**
 * A compressor at work: feed-forward, level and reduction in dB, both planes turned down alike. The reduction follows
 * its static curve with one-pole attack and release (Giannoulis, Massberg, Reiss 2012, section 2.3, smooth branching
 * detector): after a step it has covered 63 % of the way in the attack or release time.
 */
final class CompressorEffect implements Effect {
    private static final double RMS_SECONDS = 0.01;

    private final Detector detector;
    private final float threshold;
    private final float slope;
    private final float knee;
    private final float kneeFactor;
    private final float makeUp;
    /** Halfway between what attack and release keep of the frame before, and half of how far they lie apart. */
    private final double middle;

    private final double apart;
    private final double rms;
    private final float[] gains;
    private double square;
    private double reduction;

    CompressorEffect(Processor settings, int rate, int planes, int maxFrames) {
        detector = new Detector(settings.value("keyHighPassHz"), rate, planes, maxFrames);
        threshold = (float) settings.value("thresholdDb");
        slope = (float) (1 - 1 / settings.value("ratio"));
        knee = (float) settings.value("kneeDb");
        kneeFactor = knee == 0 ? 0 : slope / (2 * knee);
        makeUp = (float) Decibels.toFactor(settings.value("makeUpDb"));
        double attack = GainReduction.pole(settings.value("attackMs") / 1_000, rate);
        double release = GainReduction.pole(settings.value("releaseMs") / 1_000, rate);
        middle = (release + attack) / 2;
        apart = (release - attack) / 2;
        rms = settings.choice("detection") == 1 ? GainReduction.pole(RMS_SECONDS, rate) : 0;
        gains = new float[maxFrames];
    }

    @Override
    public void process(float[][] signal, float @Nullable [] @Nullable [] key, int frames) {
        float[] levels = detector.listen(signal, key, frames);
        if (rms > 0) {
            smoothSquares(levels, frames);
        }
        reduce(levels, frames);
        GainReduction.apply(gains, signal, frames);
    }

    private void smoothSquares(float[] levels, int frames) {
        double z = square;
        for (int i = 0; i < frames; i++) {
            z = rms * z + (1 - rms) * levels[i] * levels[i];
            // A sine reads its peak, as in the AES17 convention.
            levels[i] = (float) Math.sqrt(2 * z);
        }
        square = z < 1e-30 ? 0 : z;
    }

    /** Fills the gains. */
    private void reduce(float[] levels, int frames) {
        final float[] wanted = gains;
        GainReduction.toDb(levels, wanted, frames);
        for (int i = 0; i < frames; i++) {
            // Within the knee a parabola, above it a line: the same as Compression.reductionDb without its branches.
            float over = wanted[i] - threshold + knee / 2;
            float within = Math.max(0, Math.min(knee, over));
            float above = Math.max(0, over - knee);
            wanted[i] = kneeFactor * within * within + slope * above;
        }
        if (reduction == 0 && nothing(wanted, frames)) {
            Arrays.fill(gains, 0, frames, makeUp);
            return;
        }
        double now = reduction;
        for (int i = 0; i < frames; i++) {
            // The distance times the attack where more is wanted, times the release where less: without a branch, which
            // the processor could not foresee.
            double to = wanted[i];
            double distance = now - to;
            now = Math.fma(Math.abs(distance), apart, Math.fma(distance, middle, to));
            wanted[i] = (float) now;
        }
        reduction = now < 1e-9 ? 0 : now;
        GainReduction.toGains(gains, makeUp, frames);
    }

    private static boolean nothing(float[] wanted, int frames) {
        for (int i = 0; i < frames; i++) {
            if (wanted[i] != 0) {
                return false;
            }
        }
        return true;
    }

    @Override
    public void reset() {
        detector.reset();
        reduction = 0;
        square = 0;
    }

    @Override
    public void adopt(Effect other) {
        if (other instanceof CompressorEffect before) {
            detector.adopt(before.detector);
            reduction = before.reduction;
            square = before.square;
        }
    }

    @Override
    public double reductionDb() {
        return reduction;
    }
}
