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

    /** No such parameter. */
    private static final int NONE = -1;

    /** By slope the filters' Q. Butterworth: the poles of a fourth-order filter as two second-order ones. */
    private static final double[][] SLOPES = {{}, {Math.sqrt(0.5)}, {0.541_196_1, 1.306_563}};

    private final int rate;
    private final Filter[] row;
    private final FilterChain filters;
    private final double[] goal;
    private final double[] values;
    /** What the settings are at one of the moves. */
    private final double[] settings;

    private final FilterChain.Goals goals = new SettingsGoals();

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

        /**
         * Writes its coefficients with some settings and each of some gains.
         *
         * @param roots the square roots of the gains, linear
         */
        void write(double[] to, int at, double[] settings, double[] roots, int first, int count) {
            if (settings[hertz] != tuned) {
                tuned = settings[hertz];
                double angle = Biquad.angle(tuned, rate);
                sin = Math.sin(angle);
                cos = Math.cos(angle);
            }
            double width = q == NONE ? 1 : settings[q];
            for (int k = 0; k < count; k++) {
                design.write(to, at + Biquad.SIZE * k, sin, cos, width, roots[first + k]);
            }
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

    private interface Pass {
        void write(double[] to, int at, double sin, double cos, double q);
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
        row.addAll(slope(rate, settings[HIGH_PASS_SLOPE], Biquad::highPass, HIGH_PASS_HZ));
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
        row.addAll(slope(rate, settings[LOW_PASS_SLOPE], Biquad::lowPass, LOW_PASS_HZ));
        return row;
    }

    /** A high- or low-pass: as many filters as the slope takes. */
    private static List<Filter> slope(int rate, double setting, Pass pass, int hertz) {
        return Arrays.stream(SLOPES[(int) Math.round(setting)])
                .mapToObj(slope -> new Filter(
                        rate, (to, at, sin, cos, q, root) -> pass.write(to, at, sin, cos, slope), hertz, NONE, NONE))
                .toList();
    }

    /** The square root of a filter's gain, linear: to the bit as where many are found. */
    private static double root(Filter filter, double[] settings, MovesAhead ahead) {
        if (filter.db == NONE) {
            return 1;
        }
        ahead.halves[0] = 0.5 * settings[filter.db];
        Decibels.toFactors(ahead.halves, 1, ahead.roots);
        return ahead.roots[0];
    }

    @Override
    public void move(double[] to, int frames) {
        MovesAhead ahead = MovesAhead.ofThread();
        for (int f = 0; f < row.length; f++) {
            if (row[f].differs(to, values)) {
                ahead.roots[0] = root(row[f], to, ahead);
                row[f].write(goal, Biquad.SIZE * f, to, ahead.roots, 0, 1);
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
            Filter filter = row[f];
            return script.moves(filter.hertz) || script.moves(filter.q) || script.moves(filter.db);
        }

        @Override
        public void write(int f, Moves script, int first, int count, MovesAhead ahead) {
            Filter filter = row[f];
            System.arraycopy(values, 0, settings, 0, values.length);
            if (first > 0) {
                script.write(first - 1, settings);
            }
            Arrays.fill(ahead.elsewhere, 0, count, false);
            mark(filter.hertz, script, first, count, ahead.elsewhere);
            mark(filter.q, script, first, count, ahead.elsewhere);
            mark(filter.db, script, first, count, ahead.elsewhere);
            roots(filter, script, first, count, ahead);
            if (script.moves(filter.hertz) || script.moves(filter.q)) {
                for (int k = 0; k < count; k++) {
                    script.write(first + k, settings);
                    filter.write(ahead.goals, Biquad.SIZE * k, settings, ahead.roots, k, 1);
                }
            } else {
                filter.write(ahead.goals, 0, settings, ahead.roots, 0, count);
            }
        }

        /** Marks those of the moves with which a parameter is another than before; none where it does not move. */
        private void mark(int parameter, Moves script, int first, int count, boolean[] elsewhere) {
            if (!script.moves(parameter)) {
                return;
            }
            double[] values = script.row(parameter);
            double last = settings[parameter];
            for (int k = 0; k < count; k++) {
                double value = values[first + k];
                elsewhere[k] |= value != last;
                last = value;
            }
        }

        /** Finds the square roots of a filter's gains with some of the moves, linear. */
        private void roots(Filter filter, Moves script, int first, int count, MovesAhead ahead) {
            if (script.moves(filter.db)) {
                double[] db = script.row(filter.db);
                for (int k = 0; k < count; k++) {
                    ahead.halves[k] = 0.5 * db[first + k];
                }
                Decibels.toFactors(ahead.halves, count, ahead.roots);
            } else {
                Arrays.fill(ahead.roots, 0, count, root(filter, settings, ahead));
            }
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
