package waterwheel.core.session;

/**
 * What every channel that carries audio has between its source and its destination, in signal order: polarity, trim,
 * (inserts,) fader, placement, output; and its mute and solo.
 *
 * @param polarityInverted whether the signal is multiplied by -1
 * @param trimDb gain before the inserts, -48 to +48 dB
 * @param faderDb gain after the inserts, negative infinity to +12 dB
 * @param muted whether all that leaves the channel is silent
 * @param soloed whether the channel is heard while others are not
 * @param soloSafe whether the channel goes on sounding while others are soloed
 */
public record Strip(
        boolean polarityInverted,
        double trimDb,
        double faderDb,
        Placement placement,
        boolean muted,
        boolean soloed,
        boolean soloSafe,
        Output output) {
    public static final double TRIM_LIMIT_DB = 48;
    public static final double FADER_TOP_DB = 12;

    public Strip {
        trimDb = Ranges.checked("trimDb", trimDb, -TRIM_LIMIT_DB, TRIM_LIMIT_DB);
        faderDb = Ranges.checked("faderDb", faderDb, Double.NEGATIVE_INFINITY, FADER_TOP_DB);
    }

    /** A strip that changes nothing: all gains 0 dB, centred, neither muted nor soloed. */
    public static Strip unity(Output output) {
        return new Strip(false, 0, 0, Placement.CENTRE, false, false, false, output);
    }

    public Strip withPolarityInverted(boolean value) {
        return new Strip(value, trimDb, faderDb, placement, muted, soloed, soloSafe, output);
    }

    public Strip withTrimDb(double value) {
        return new Strip(polarityInverted, value, faderDb, placement, muted, soloed, soloSafe, output);
    }

    public Strip withFaderDb(double value) {
        return new Strip(polarityInverted, trimDb, value, placement, muted, soloed, soloSafe, output);
    }

    public Strip withPlacement(Placement value) {
        return new Strip(polarityInverted, trimDb, faderDb, value, muted, soloed, soloSafe, output);
    }

    public Strip withMuted(boolean value) {
        return new Strip(polarityInverted, trimDb, faderDb, placement, value, soloed, soloSafe, output);
    }

    public Strip withSoloed(boolean value) {
        return new Strip(polarityInverted, trimDb, faderDb, placement, muted, value, soloSafe, output);
    }

    public Strip withSoloSafe(boolean value) {
        return new Strip(polarityInverted, trimDb, faderDb, placement, muted, soloed, value, output);
    }

    public Strip withOutput(Output value) {
        return new Strip(polarityInverted, trimDb, faderDb, placement, muted, soloed, soloSafe, value);
    }
}
