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
    private final Filter[] row;
    private final FilterChain filters;
    private final double[] goal;
    private final double[] values;
    /** What the settings are at one of the moves. */
    private final double[] settings;

    private final FilterChain.Goals goals = new SettingsGoals();

    /** One of the filters: what it hangs on, its frequency first, and how its coefficients are found. */
    private static final class Filter {
        private final int rate;
        private final int[] parameters;
        /** By parameter whether it is one of those. */
        private final boolean[] hangs = new boolean[Equaliser.KIND.parameters().size()];

        private final Design design;
        /** The frequency that the sine and cosine belong to: they take longer to find than all else of a gain. */
        private double hertz = Double.NaN;

        private double sin;
        private double cos;

        Filter(int rate, Design design, int... parameters) {
            this.rate = rate;
            this.design = design;
            this.parameters = parameters;
            for (int parameter : parameters) {
                hangs[parameter] = true;
            }
        }

        /** Writes its coefficients with some settings. */
        void write(double[] to, int at, double[] settings) {
            if (settings[parameters[0]] != hertz) {
                hertz = settings[parameters[0]];
                double angle = Biquad.angle(hertz, rate);
                sin = Math.sin(angle);
                cos = Math.cos(angle);
            }
            design.write(to, at, sin, cos, settings);
        }

        boolean hangsOn(int parameter) {
            return hangs[parameter];
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
        /** @param sin of the frequency's angle */
        void write(double[] to, int at, double sin, double cos, double[] settings);
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
        for (double q : SLOPES[(int) Math.round(settings[HIGH_PASS_SLOPE])]) {
            row.add(new Filter(rate, (to, at, sin, cos, s) -> Biquad.highPass(to, at, sin, cos, q), HIGH_PASS_HZ));
        }
        row.add(new Filter(
                rate,
                (to, at, sin, cos, s) -> Biquad.lowShelf(to, at, sin, cos, s[LOW_SHELF_DB]),
                LOW_SHELF_HZ,
                LOW_SHELF_DB));
        row.add(bell(rate, BELL_1_HZ, BELL_1_Q, BELL_1_DB));
        row.add(bell(rate, BELL_2_HZ, BELL_2_Q, BELL_2_DB));
        row.add(new Filter(
                rate,
                (to, at, sin, cos, s) -> Biquad.highShelf(to, at, sin, cos, s[HIGH_SHELF_DB]),
                HIGH_SHELF_HZ,
                HIGH_SHELF_DB));
        for (double q : SLOPES[(int) Math.round(settings[LOW_PASS_SLOPE])]) {
            row.add(new Filter(rate, (to, at, sin, cos, s) -> Biquad.lowPass(to, at, sin, cos, q), LOW_PASS_HZ));
        }
        return row;
    }

    private static Filter bell(int rate, int hertz, int q, int db) {
        return new Filter(rate, (to, at, sin, cos, s) -> Biquad.bell(to, at, sin, cos, s[q], s[db]), hertz, q, db);
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
            for (int k = 0; k < count; k++) {
                boolean differs = false;
                for (int parameter : script.moved()) {
                    double value = script.row(parameter)[first + k];
                    differs |= value != settings[parameter] && filter.hangsOn(parameter);
                    settings[parameter] = value;
                }
                elsewhere[k] = differs;
                if (differs) {
                    filter.write(to, Biquad.SIZE * k, settings);
                }
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
