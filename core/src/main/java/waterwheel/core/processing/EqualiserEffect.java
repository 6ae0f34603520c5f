package waterwheel.core.processing;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.jspecify.annotations.Nullable;
import waterwheel.core.units.Decibels;

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
    private final Filter[] row;
    private final FilterChain filters;
    private final double[] goal;
    private final double[] values;
    /** What the settings are at one of the moves. */
    private final double[] settings;

    /** Half of a filter's gains with some of the moves, in dB, and the square roots of the gains, linear. */
    private final double[] halves = new double[FilterChain.AHEAD];

    private final double[] roots = new double[FilterChain.AHEAD];

    private final FilterChain.Goals goals = new SettingsGoals();

    /** No such parameter. */
    private static final int NONE = -1;

    /** One of the filters: what it hangs on, and how its coefficients are found. */
    private static final class Filter {
        private final int rate;
        private final Design design;
        private final int hertz;
        private final int q;
        private final int db;
        /** The frequency that the sine and cosine belong to: they take longer to find than all else of a gain. */
        private double tuned = Double.NaN;

        private double sin;
        private double cos;

        /** Makes one that hangs on these parameters; those but the first may be {@link #NONE}. */
        Filter(int rate, Design design, int hertz, int q, int db) {
            this.rate = rate;
            this.design = design;
            this.hertz = hertz;
            this.q = q;
            this.db = db;
        }

        /** Writes its coefficients with some settings. */
        void write(double[] to, int at, double[] settings) {
            write(to, at, settings, db == NONE ? 1 : Decibels.toFactor(settings[db] / 2));
        }

        /** Writes its coefficients with some settings and the square root of their gain, linear. */
        void write(double[] to, int at, double[] settings, double root) {
            if (settings[hertz] != tuned) {
                tuned = settings[hertz];
                double angle = Biquad.angle(tuned, rate);
                sin = Math.sin(angle);
                cos = Math.cos(angle);
            }
            design.write(to, at, sin, cos, q == NONE ? 1 : settings[q], root);
        }

        boolean hangsOn(int parameter) {
            return parameter == hertz || parameter == q || parameter == db;
        }

        private static boolean differs(int parameter, double[] one, double[] other) {
            return parameter != NONE && one[parameter] != other[parameter];
        }

        boolean differs(double[] one, double[] other) {
            return differs(hertz, one, other) || differs(q, one, other) || differs(db, one, other);
        }
    }

    private interface Design {
        /**
         * @param sin of the frequency's angle
         * @param root the square root of the gain, linear
         */
        void write(double[] to, int at, double sin, double cos, double q, double root);
    }

    EqualiserEffect(double[] settings, int rate) {
        this.rate = rate;
        row = row(settings, rate).toArray(Filter[]::new);
        filters = new FilterChain(row.length);
        goal = filters.goal();
        values = new double[settings.length];
        this.settings = new double[settings.length];
        Arrays.fill(values, Double.NaN);
        move(settings, 0);
    }

    private static List<Filter> row(double[] settings, int rate) {
        List<Filter> row = new ArrayList<>();
        for (double slope : SLOPES[(int) Math.round(settings[HIGH_PASS_SLOPE])]) {
            row.add(new Filter(
                    rate,
                    (to, at, sin, cos, q, root) -> Biquad.highPass(to, at, sin, cos, slope),
                    HIGH_PASS_HZ,
                    NONE,
                    NONE));
        }
        row.add(new Filter(
                rate,
                (to, at, sin, cos, q, root) -> Biquad.lowShelf(to, at, sin, cos, root),
                LOW_SHELF_HZ,
                NONE,
                LOW_SHELF_DB));
        row.add(new Filter(rate, Biquad::bell, BELL_1_HZ, BELL_1_Q, BELL_1_DB));
        row.add(new Filter(rate, Biquad::bell, BELL_2_HZ, BELL_2_Q, BELL_2_DB));
        row.add(new Filter(
                rate,
                (to, at, sin, cos, q, root) -> Biquad.highShelf(to, at, sin, cos, root),
                HIGH_SHELF_HZ,
                NONE,
                HIGH_SHELF_DB));
        for (double slope : SLOPES[(int) Math.round(settings[LOW_PASS_SLOPE])]) {
            row.add(new Filter(
                    rate,
                    (to, at, sin, cos, q, root) -> Biquad.lowPass(to, at, sin, cos, slope),
                    LOW_PASS_HZ,
                    NONE,
                    NONE));
        }
        return row;
    }

    @Override
    public void move(double[] to, int frames) {
        for (int f = 0; f < row.length; f++) {
            if (row[f].differs(to, values)) {
                row[f].write(goal, Biquad.SIZE * f, to);
                filters.move(f, frames);
            }
        }
        System.arraycopy(to, 0, values, 0, values.length);
    }

    @Override
    public void follow(float[][] signal, float @Nullable [] @Nullable [] key, int frames, Moves moves) {
        filters.follow(signal, frames, moves, goals);
        if (moves.count() > 0) {
            moves.write(moves.count() - 1, values);
        }
    }

    /** Where the filters go is told by what their settings are. */
    private final class SettingsGoals implements FilterChain.Goals {
        @Override
        public boolean moves(int f, Moves script) {
            for (int parameter : script.moved()) {
                if (row[f].hangsOn(parameter)) {
                    return true;
                }
            }
            return false;
        }

        @Override
        public void write(int f, Moves script, int first, int count, double[] to, boolean[] elsewhere) {
            Filter filter = row[f];
            System.arraycopy(values, 0, settings, 0, values.length);
            if (first > 0) {
                script.write(first - 1, settings);
            }
            roots(filter, script, first, count);
            for (int k = 0; k < count; k++) {
                boolean differs = false;
                for (int parameter : script.moved()) {
                    double value = script.row(parameter)[first + k];
                    differs |= value != settings[parameter] && filter.hangsOn(parameter);
                    settings[parameter] = value;
                }
                elsewhere[k] = differs;
                if (differs) {
                    filter.write(to, Biquad.SIZE * k, settings, roots[k]);
                }
            }
        }

        /** Finds the square roots of a filter's gains with some of the moves, linear. */
        private void roots(Filter filter, Moves script, int first, int count) {
            if (filter.db == NONE || !script.moves(filter.db)) {
                double root = filter.db == NONE ? 1 : Decibels.toFactor(settings[filter.db] / 2);
                Arrays.fill(roots, 0, count, root);
                return;
            }
            double[] db = script.row(filter.db);
            for (int k = 0; k < count; k++) {
                halves[k] = 0.5 * db[first + k];
            }
            Decibels.toFactors(halves, count, roots);
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
        if (other instanceof EqualiserEffect before && before.row.length == row.length) {
            filters.adopt(before.filters);
        }
    }
}
