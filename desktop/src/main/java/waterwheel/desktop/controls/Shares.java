package waterwheel.desktop.controls;

import waterwheel.core.units.LevelText;

/** Shares of a block's time in words. */
public final class Shares {
    private Shares() {}

    /** In percent: two decimals below 1, one above. */
    public static String percent(double share) {
        double percent = 100 * share;
        return LevelText.signed(percent, percent < 0.995 ? 2 : 1, false) + " %";
    }
}
