package waterwheel.desktop.controls;

/** The one dB scale of every level drawn: -60 to +12, left to right. */
public final class LevelScale {
    public static final double LOWEST_DB = -60;
    public static final double HIGHEST_DB = 12;

    private LevelScale() {}

    /** Place of a level on a scale of some width, from 0 to the width; levels outside stand at the ends. */
    public static double x(double db, double width) {
        return Math.clamp((db - LOWEST_DB) / (HIGHEST_DB - LOWEST_DB), 0, 1) * width;
    }

    /** How many dB a movement over some pixels means. */
    public static double dbOf(double pixels, double width) {
        return pixels / width * (HIGHEST_DB - LOWEST_DB);
    }
}
