package waterwheel.core.session;

import waterwheel.core.units.Ranges;

/**
 * What a channel's signal is multiplied by on its way.
 *
 * @param polarityInverted whether the signal is multiplied by -1
 * @param trimDb gain before the inserts, -48 to +48 dB
 * @param faderDb gain after the inserts, negative infinity to +12 dB
 * @param placement where it sits between left and right
 */
public record Gains(boolean polarityInverted, double trimDb, double faderDb, Placement placement) {
    /** Nothing changed. */
    public static final Gains UNITY = new Gains(false, 0, 0, Placement.CENTRE);

    public Gains {
        trimDb = Ranges.checked("trimDb", trimDb, -Strip.TRIM_LIMIT_DB, Strip.TRIM_LIMIT_DB);
        faderDb = Ranges.checked("faderDb", faderDb, Double.NEGATIVE_INFINITY, Strip.FADER_TOP_DB);
    }
}
