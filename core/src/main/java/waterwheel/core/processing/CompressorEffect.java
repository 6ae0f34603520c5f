package waterwheel.core.processing;

import org.jspecify.annotations.Nullable;
import waterwheel.core.units.Decibels;

/**
 * A compressor at work: feed-forward, level and reduction in dB, both planes turned down alike. The reduction follows
 * its static curve with one-pole attack and release (Giannoulis, Massberg, Reiss 2012, section 2.3, smooth branching
 * detector): after a step it has covered 63 % of the way in the attack or release time.
 */
final class CompressorEffect implements Effect {
    private static final double RMS_SECONDS = 0.01;

    private static final int THRESHOLD = Compressor.KIND.index("thresholdDb");
    private static final int RATIO = Compressor.KIND.index("ratio");
    private static final int KNEE = Compressor.KIND.index("kneeDb");
    private static final int ATTACK = Compressor.KIND.index("attackMs");
    private static final int RELEASE = Compressor.KIND.index("releaseMs");
    private static final int MAKE_UP = Compressor.KIND.index("makeUpDb");
    private static final int DETECTION = Compressor.KIND.index("detection");
    private static final int KEY_HIGH_PASS = Compressor.KIND.index("keyHighPassHz");

    private final int rate;
    private final Detector detector;
    private final Glide threshold;
    private final Glide makeUp;
    private float slope;
    private float knee;
    private float kneeFactor;
    /** Halfway between what attack and release keep of the frame before, and half of how far they lie apart. */
    private double middle;

    private double apart;
    private final double rms;
    private double square;
    private double reduction;

    CompressorEffect(double[] settings, Site site) {
        rate = site.sampleRateHz();
        detector = new Detector(settings[KEY_HIGH_PASS], rate, site.planes());
        threshold = new Glide(settings[THRESHOLD]);
        makeUp = new Glide(Decibels.toFactor(settings[MAKE_UP]));
        rms = settings[DETECTION] == 1 ? GainReduction.pole(RMS_SECONDS, rate) : 0;
        move(settings, 0);
    }

    @Override
    public void move(double[] values, int frames) {
        detector.move(values[KEY_HIGH_PASS], frames);
        threshold.to(values[THRESHOLD], frames);
        makeUp.to(Decibels.toFactor(values[MAKE_UP]), frames);
        slope = (float) (1 - 1 / values[RATIO]);
        knee = (float) values[KNEE];
        kneeFactor = knee == 0 ? 0 : slope / (2 * knee);
        double attack = GainReduction.pole(values[ATTACK] / 1_000, rate);
        double release = GainReduction.pole(values[RELEASE] / 1_000, rate);
        middle = (release + attack) / 2;
        apart = (release - attack) / 2;
    }

    @Override
    public void process(float[][] signal, float @Nullable [] @Nullable [] key, int frames) {
        float[] levels = detector.listen(signal, key, frames);
        if (rms > 0) {
            smoothSquares(levels, frames);
        }
        float[][] rows = Rows.single(frames);
        float[] gains = rows[Detector.ROWS];
        reduce(levels, gains, rows[Detector.ROWS + 1], frames);
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

    /** Fills the gains; the row may hold anything. */
    private void reduce(float[] levels, float[] gains, float[] row, int frames) {
        final float[] wanted = gains;
        GainReduction.toDb(levels, wanted, frames);
        if (threshold.moving()) {
            threshold.fill(row, frames);
            for (int i = 0; i < frames; i++) {
                wanted[i] -= row[i];
            }
            want(wanted, 0, frames);
        } else {
            want(wanted, (float) threshold.now(), frames);
        }
        if (reduction == 0 && nothing(wanted, frames)) {
            makeUp.fill(gains, frames);
            return;
        }
        final double middle = this.middle;
        final double rest = 1 - middle;
        final double apart = Math.abs(this.apart);
        final double sign = Math.signum(this.apart);
        double now = reduction;
        for (int i = 0; i < frames; i++) {
            // The distance times the attack where more is wanted, times the release where less: without a branch, which
            // the processor could not foresee, and with only two roundings between a frame and the next, which waits.
            double to = wanted[i];
            double between = Math.fma(now, middle, rest * to);
            double distance = Math.fma(now, apart, -apart * to);
            now = Math.fma(Math.abs(distance), sign, between);
            wanted[i] = (float) now;
        }
        reduction = now < 1e-9 ? 0 : now;
        if (makeUp.moving()) {
            GainReduction.toGains(gains, 1, frames);
            makeUp.fill(row, frames);
            for (int i = 0; i < frames; i++) {
                gains[i] *= row[i];
            }
        } else {
            GainReduction.toGains(gains, (float) makeUp.now(), frames);
        }
    }

    /** Makes of levels by how much they are to be turned down, in place, both in dB. */
    private void want(float[] levels, float from, int frames) {
        final float k = knee;
        final float factor = kneeFactor;
        final float line = slope;
        for (int i = 0; i < frames; i++) {
            // Within the knee a parabola, above it a line: the same as Compressor.reductionDb without its branches.
            float over = levels[i] - from + k / 2;
            float within = Math.max(0, Math.min(k, over));
            float above = Math.max(0, over - k);
            levels[i] = factor * within * within + line * above;
        }
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
        threshold.arrive();
        makeUp.arrive();
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
