package waterwheel.core.processing;

import org.jspecify.annotations.Nullable;

/**
 * A transient shaper at work, both planes by one gain. The level is the peak of all planes, held and let go within 20 ms,
 * so that the waves of low tones do not count as beginnings.
 */
final class TransientEffect implements Effect {
    private static final int ATTACK_DB = TransientShaper.KIND.index("attackDb");
    private static final int SUSTAIN_DB = TransientShaper.KIND.index("sustainDb");
    private static final int ATTACK_MS = TransientShaper.KIND.index("attackMs");
    private static final int SUSTAIN_MS = TransientShaper.KIND.index("sustainMs");

    private static final double HOLD_SECONDS = 0.02;

    private final int rate;
    private final Detector detector;
    private final double hold;
    private final Followers followers = new Followers();
    private final Glide attackDb;
    private final Glide sustainDb;
    private double held;

    TransientEffect(double[] settings, Site site) {
        rate = site.sampleRateHz();
        detector = new Detector(0, rate, site.planes());
        hold = GainReduction.pole(HOLD_SECONDS, rate);
        attackDb = new Glide(settings[ATTACK_DB]);
        sustainDb = new Glide(settings[SUSTAIN_DB]);
        followers.set(settings, rate);
    }

    /** Envelopes in dB that differ in how fast they rise, and ones that differ in how fast they fall. */
    private static final class Followers {
        private static final double FAST_RISE_SECONDS = 0.000_5;
        private static final double FAST_FALL_SECONDS = 0.02;
        /** From this distance on all of the setting counts. */
        private static final double FULL_DB = 12;
        /** Envelopes lie no further apart, so that silence before a sound makes no difference. */
        private static final double MOST_APART_DB = 24;

        private static final double REST_DB = -100;

        private double fastRise;
        private double slowRise;
        private double fastFall;
        private double slowFall;
        private double quick = REST_DB;
        private double lazy = REST_DB;
        private double lasting = REST_DB;
        private double passing = REST_DB;

        void set(double[] settings, int rate) {
            fastRise = GainReduction.pole(FAST_RISE_SECONDS, rate);
            slowRise = GainReduction.pole(settings[ATTACK_MS] / 1_000, rate);
            fastFall = GainReduction.pole(FAST_FALL_SECONDS, rate);
            slowFall = GainReduction.pole(settings[SUSTAIN_MS] / 1_000, rate);
        }

        /** The gain of the next frame, in dB. */
        double next(double levelDb, double attackDb, double sustainDb) {
            double level = Math.max(REST_DB, levelDb);
            quick = follow(quick, level, fastRise, fastFall);
            lazy = Math.max(follow(lazy, level, slowRise, fastFall), quick - MOST_APART_DB);
            lasting = follow(lasting, level, fastRise, slowFall);
            passing = Math.max(follow(passing, level, fastRise, fastFall), lasting - MOST_APART_DB);
            return attackDb * part(quick - lazy) + sustainDb * part(lasting - passing);
        }

        private static double follow(double now, double level, double rise, double fall) {
            double keep = level > now ? rise : fall;
            return keep * now + (1 - keep) * level;
        }

        private static double part(double apart) {
            return Math.clamp(apart / FULL_DB, 0, 1);
        }

        void rest() {
            quick = REST_DB;
            lazy = REST_DB;
            lasting = REST_DB;
            passing = REST_DB;
        }

        void adopt(Followers other) {
            quick = other.quick;
            lazy = other.lazy;
            lasting = other.lasting;
            passing = other.passing;
        }
    }

    /**
     * The gain in dB over a sound that is at once there and falls by 60 dB after its end, one for each step.
     *
     * @param lasts how long it is there, in seconds
     * @param decays how long it falls
     * @param seconds how long is looked at
     */
    static double[] overBurst(double[] settings, double lasts, double decays, double seconds, double step) {
        Followers followers = new Followers();
        followers.set(settings, (int) Math.round(1 / step));
        double[] gains = new double[(int) Math.round(seconds / step)];
        for (int i = 0; i < gains.length; i++) {
            double level = -12 - 60 * Math.max(0, (i * step - lasts) / decays);
            gains[i] = followers.next(level, settings[ATTACK_DB], settings[SUSTAIN_DB]);
        }
        return gains;
    }

    @Override
    public void move(double[] values, int frames) {
        attackDb.to(values[ATTACK_DB], frames);
        sustainDb.to(values[SUSTAIN_DB], frames);
        followers.set(values, rate);
    }

    @Override
    public void process(float[][] signal, float @Nullable [] @Nullable [] key, int frames) {
        float[] levels = detector.listen(signal, key, frames);
        double now = held;
        for (int i = 0; i < frames; i++) {
            now = Math.max(levels[i], hold * now);
            levels[i] = (float) now;
        }
        held = now < 1e-15 ? 0 : now;
        float[] gains = Rows.single(frames)[Detector.ROWS];
        GainReduction.toDb(levels, gains, frames);
        for (int i = 0; i < frames; i++) {
            // What turns down by a negative amount turns up.
            gains[i] = (float) -followers.next(gains[i], attackDb.next(), sustainDb.next());
        }
        GainReduction.toGains(gains, 1, frames);
        GainReduction.apply(gains, signal, frames);
    }

    @Override
    public void reset() {
        attackDb.arrive();
        sustainDb.arrive();
        followers.rest();
        held = 0;
    }

    @Override
    public void adopt(Effect other) {
        if (other instanceof TransientEffect before) {
            followers.adopt(before.followers);
            held = before.held;
        }
    }
}
