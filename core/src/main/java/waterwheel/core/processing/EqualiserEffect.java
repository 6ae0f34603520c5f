package waterwheel.core.processing;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** An equaliser at work: its filters one after the other. */
final class EqualiserEffect implements Following {
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

    private final int rate;
    private final List<Filter> row;
    private final FilterChain filters;
    private final double[] goal;
    private final double[] values;
    private final FilterChain.Goals goals = new SettingsGoals();

    /** One of the filters: what it hangs on, and how its coefficients are found. */
    private static final class Filter {
        private final int[] parameters;
        private final Design design;

        Filter(int[] parameters, Design design) {
            this.parameters = parameters;
            this.design = design;
        }

        boolean hangsOn(int[] some) {
            for (int one : some) {
                for (int parameter : parameters) {
                    if (parameter == one) {
                        return true;
                    }
                }
            }
            return false;
        }

        boolean differs(double[] one, double[] other) {
            for (int parameter : parameters) {
                if (one[parameter] != other[parameter]) {
                    return true;
                }
            }
            return false;
        }
    }

    private interface Design {
        void write(double[] to, int at, double[] settings);
    }

    EqualiserEffect(double[] settings, int rate) {
        this.rate = rate;
        row = row(settings, rate);
        filters = new FilterChain(row.size());
        goal = filters.goal();
        values = new double[settings.length];
        Arrays.fill(values, Double.NaN);
        move(settings, 0);
    }

    private static List<Filter> row(double[] settings, int rate) {
        List<Filter> row = new ArrayList<>();
        for (double q : SLOPES[(int) Math.round(settings[HIGH_PASS_SLOPE])]) {
            row.add(new Filter(
                    new int[] {HIGH_PASS_HZ}, (to, at, s) -> Biquad.highPass(to, at, s[HIGH_PASS_HZ], q, rate)));
        }
        row.add(new Filter(
                new int[] {LOW_SHELF_HZ, LOW_SHELF_DB},
                (to, at, s) -> Biquad.lowShelf(to, at, s[LOW_SHELF_HZ], s[LOW_SHELF_DB], rate)));
        row.add(bell(BELL_1_HZ, BELL_1_Q, BELL_1_DB, rate));
        row.add(bell(BELL_2_HZ, BELL_2_Q, BELL_2_DB, rate));
        row.add(new Filter(
                new int[] {HIGH_SHELF_HZ, HIGH_SHELF_DB},
                (to, at, s) -> Biquad.highShelf(to, at, s[HIGH_SHELF_HZ], s[HIGH_SHELF_DB], rate)));
        for (double q : SLOPES[(int) Math.round(settings[LOW_PASS_SLOPE])]) {
            row.add(new Filter(
                    new int[] {LOW_PASS_HZ}, (to, at, s) -> Biquad.lowPass(to, at, s[LOW_PASS_HZ], q, rate)));
        }
        return row;
    }

    private static Filter bell(int hertz, int q, int db, int rate) {
        return new Filter(new int[] {hertz, q, db}, (to, at, s) -> Biquad.bell(to, at, s[hertz], s[q], s[db], rate));
    }

    @Override
    public void move(double[] to, int frames) {
        for (int f = 0; f < row.size(); f++) {
            if (row.get(f).differs(to, values)) {
                row.get(f).design.write(goal, Biquad.SIZE * f, to);
                filters.move(f, frames);
            }
        }
        System.arraycopy(to, 0, values, 0, values.length);
    }

    @Override
    public void expect(int[] parameters) {
        for (int f = 0; f < row.size(); f++) {
            filters.keepApart(f, row.get(f).hangsOn(parameters));
        }
    }

    @Override
    public void follow(float[][] signal, float @Nullable [] @Nullable [] key, int frames, Moves moves) {
        filters.follow(signal, frames, moves, goals);
        if (moves.count() > 0) {
            System.arraycopy(moves.values(moves.count() - 1), 0, values, 0, values.length);
        }
    }

    /** Where the filters go is told by what their settings are. */
    private final class SettingsGoals implements FilterChain.Goals {
        @Override
        public boolean elsewhere(int f, Moves script, int k) {
            return row.get(f).differs(script.values(k), k == 0 ? values : script.values(k - 1));
        }

        @Override
        public void write(int f, Moves script, int k) {
            row.get(f).design.write(goal, Biquad.SIZE * f, script.values(k));
        }
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
        if (other instanceof EqualiserEffect before && before.row.size() == row.size()) {
            filters.adopt(before.filters);
        }
    }
}
