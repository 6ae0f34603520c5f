package waterwheel.core.processing;

import java.util.Arrays;
import org.jspecify.annotations.Nullable;

/** An equaliser at work: its filters one after the other. */
final class EqualiserEffect implements Effect {
    private static final int HIGH_PASS_HZ = Equaliser.KIND.index("highPassHz");
    private static final int HIGH_PASS_SLOPE = Equaliser.KIND.index("highPassSlope");
    private static final int LOW_SHELF_HZ = Equaliser.KIND.index("lowShelfHz");
    private static final int LOW_SHELF_DB = Equaliser.KIND.index("lowShelfDb");
    private static final int BELL_1_HZ = Equaliser.KIND.index("bell1Hz");
    private static final int BELL_1_DB = Equaliser.KIND.index("bell1Db");
    private static final int BELL_1_Q = Equaliser.KIND.index("bell1Q");
    private static final int BELL_2_HZ = Equaliser.KIND.index("bell2Hz");
    private static final int BELL_2_DB = Equaliser.KIND.index("bell2Db");
    private static final int BELL_2_Q = Equaliser.KIND.index("bell2Q");
    private static final int HIGH_SHELF_HZ = Equaliser.KIND.index("highShelfHz");
    private static final int HIGH_SHELF_DB = Equaliser.KIND.index("highShelfDb");
    private static final int LOW_PASS_HZ = Equaliser.KIND.index("lowPassHz");
    private static final int LOW_PASS_SLOPE = Equaliser.KIND.index("lowPassSlope");

    /** By slope the filters' Q. Butterworth: the poles of a fourth-order filter as two second-order ones. */
    private static final double[][] SLOPES = {{}, {Math.sqrt(0.5)}, {0.541_196_1, 1.306_563}};
    /** The shelves and bells between the passes. */
    private static final int BETWEEN = 4;

    private final int rate;
    private final double[] highPass;
    private final double[] lowPass;
    private final FilterChain filters;
    private final double[] goal;
    private final double[] values;

    EqualiserEffect(double[] settings, int rate) {
        this.rate = rate;
        highPass = SLOPES[(int) Math.round(settings[HIGH_PASS_SLOPE])];
        lowPass = SLOPES[(int) Math.round(settings[LOW_PASS_SLOPE])];
        filters = new FilterChain(highPass.length + BETWEEN + lowPass.length);
        goal = filters.goal();
        values = new double[settings.length];
        Arrays.fill(values, Double.NaN);
        move(settings, 0);
    }

    @Override
    public void move(double[] to, int frames) {
        int f = 0;
        boolean moved = differ(to, HIGH_PASS_HZ);
        for (double q : highPass) {
            if (moved) {
                Biquad.highPass(goal, Biquad.SIZE * f, to[HIGH_PASS_HZ], q, rate);
                filters.move(f, frames);
            }
            f++;
        }
        if (differ(to, LOW_SHELF_HZ) || differ(to, LOW_SHELF_DB)) {
            Biquad.lowShelf(goal, Biquad.SIZE * f, to[LOW_SHELF_HZ], to[LOW_SHELF_DB], rate);
            filters.move(f, frames);
        }
        f++;
        bell(f++, to, BELL_1_HZ, BELL_1_Q, BELL_1_DB, frames);
        bell(f++, to, BELL_2_HZ, BELL_2_Q, BELL_2_DB, frames);
        if (differ(to, HIGH_SHELF_HZ) || differ(to, HIGH_SHELF_DB)) {
            Biquad.highShelf(goal, Biquad.SIZE * f, to[HIGH_SHELF_HZ], to[HIGH_SHELF_DB], rate);
            filters.move(f, frames);
        }
        f++;
        moved = differ(to, LOW_PASS_HZ);
        for (double q : lowPass) {
            if (moved) {
                Biquad.lowPass(goal, Biquad.SIZE * f, to[LOW_PASS_HZ], q, rate);
                filters.move(f, frames);
            }
            f++;
        }
        System.arraycopy(to, 0, values, 0, values.length);
    }

    private void bell(int f, double[] to, int hertz, int q, int db, int frames) {
        if (differ(to, hertz) || differ(to, q) || differ(to, db)) {
            Biquad.bell(goal, Biquad.SIZE * f, to[hertz], to[q], to[db], rate);
            filters.move(f, frames);
        }
    }

    private boolean differ(double[] to, int parameter) {
        return to[parameter] != values[parameter];
    }

    /** Gain at a frequency, linear. */
    double magnitude(double hertz) {
        return filters.magnitude(hertz, rate);
    }

    @Override
    public void process(float[][] signal, float @Nullable [] @Nullable [] key, int frames) {
        filters.process(signal, frames);
    }

    @Override
    public void reset() {
        filters.reset();
    }

    @Override
    public void adopt(Effect other) {
        if (other instanceof EqualiserEffect before && before.highPass.length == highPass.length) {
            filters.adopt(before.filters);
        }
    }
}
