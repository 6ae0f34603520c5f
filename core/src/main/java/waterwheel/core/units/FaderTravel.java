package waterwheel.core.units;

/**
 * Where a fader's knob stands for a level: finest around unity, which stands at three quarters of the travel; the
 * lowest quarter holds everything below -36 dB down to silence.
 *
 * <p>With t the place on the travel: above unity, {@code dB = 40 v + 32 v²} with v = t - 0.75, so that the top is
 * +12 dB; from unity to -36 dB, {@code dB = -(40 u + 64 u²)} with u = 0.75 - t; below, {@code dB = -36 + 26 ln(4 t)},
 * which meets the part above with the same slope and reaches negative infinity at t = 0.
 */
public final class FaderTravel {
    /** The highest level of a fader, in dB. */
    public static final double TOP_DB = 12;

    /** Place of 0 dB on the travel from 0 to 1. */
    public static final double UNITY_PLACE = 0.75;

    private static final double KNEE_PLACE = 0.25;
    private static final double KNEE_DB = -36;
    private static final double LOG_SLOPE_DB = 26;

    private FaderTravel() {}

    /** Returns the level in dB, at most {@link #TOP_DB}, for a place; places outside 0 to 1 are taken as the ends. */
    public static double toDb(double place) {
        double t = Math.clamp(place, 0, 1);
        if (t >= UNITY_PLACE) {
            double v = t - UNITY_PLACE;
            return 40 * v + 32 * v * v;
        }
        if (t >= KNEE_PLACE) {
            double u = UNITY_PLACE - t;
            return -(40 * u + 64 * u * u);
        }
        return t == 0 ? Double.NEGATIVE_INFINITY : KNEE_DB + LOG_SLOPE_DB * Math.log(t / KNEE_PLACE);
    }

    /** Returns the place from 0 to 1 for a level in dB; levels over the top are taken as the top. */
    public static double toPlace(double db) {
        if (db >= 0) {
            return Math.min(1, UNITY_PLACE + (-40 + Math.sqrt(1600 + 128 * db)) / 64);
        }
        if (db >= KNEE_DB) {
            return UNITY_PLACE - (-40 + Math.sqrt(1600 - 256 * db)) / 128;
        }
        return KNEE_PLACE * Math.exp((db - KNEE_DB) / LOG_SLOPE_DB);
    }

    /** Returns how many dB one percent of the travel is worth at a level: the measure of how finely it can be set. */
    public static double dbPerPercent(double db) {
        double place = toPlace(db);
        return toDb(Math.min(1, place + 0.005)) - toDb(Math.max(0.0001, place - 0.005));
    }
}
