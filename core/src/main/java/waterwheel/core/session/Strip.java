package waterwheel.core.session;

import java.util.List;
import waterwheel.core.inserts.Insert;
import waterwheel.core.units.Ranges;

/**
 * What every channel that carries audio has between its source and its destination, in signal order: polarity, trim,
 * inserts, fader, placement, output; its sends; and its mute and solo.
 *
 * @param polarityInverted whether the signal is multiplied by -1
 * @param trimDb gain before the inserts, -48 to +48 dB
 * @param faderDb gain after the inserts, negative infinity to +12 dB
 * @param muted whether all that leaves the channel is silent
 * @param soloed whether the channel is heard while others are not
 * @param soloSafe whether the channel goes on sounding while others are soloed
 * @param inserts in signal order
 * @param sends branches of the signal
 * @param extraOutputs further buses that the channel feeds at unity, beside its output
 */
public record Strip(
        boolean polarityInverted,
        double trimDb,
        double faderDb,
        Placement placement,
        boolean muted,
        boolean soloed,
        boolean soloSafe,
        Output output,
        List<Insert> inserts,
        List<Send> sends,
        List<ChannelId> extraOutputs) {
    public static final double TRIM_LIMIT_DB = 48;
    public static final double FADER_TOP_DB = 12;

    public Strip {
        trimDb = Ranges.checked("trimDb", trimDb, -TRIM_LIMIT_DB, TRIM_LIMIT_DB);
        faderDb = Ranges.checked("faderDb", faderDb, Double.NEGATIVE_INFINITY, FADER_TOP_DB);
        inserts = List.copyOf(inserts);
        sends = List.copyOf(sends);
        extraOutputs = List.copyOf(extraOutputs);
    }

    /** A strip that changes nothing: all gains 0 dB, centred, neither muted nor soloed, no inserts and no sends. */
    public static Strip unity(Output output) {
        return new Strip(false, 0, 0, Placement.CENTRE, false, false, false, output, List.of(), List.of(), List.of());
    }

    /** The inserts that the signal runs through: those that are not bypassed. */
    public List<Insert> activeInserts() {
        return inserts.stream().filter(insert -> !insert.bypassed()).toList();
    }

    public Strip withPolarityInverted(boolean value) {
        return new Strip(
                value, trimDb, faderDb, placement, muted, soloed, soloSafe, output, inserts, sends, extraOutputs);
    }

    public Strip withTrimDb(double value) {
        return new Strip(
                polarityInverted,
                value,
                faderDb,
                placement,
                muted,
                soloed,
                soloSafe,
                output,
                inserts,
                sends,
                extraOutputs);
    }

    public Strip withFaderDb(double value) {
        return new Strip(
                polarityInverted,
                trimDb,
                value,
                placement,
                muted,
                soloed,
                soloSafe,
                output,
                inserts,
                sends,
                extraOutputs);
    }

    public Strip withPlacement(Placement value) {
        return new Strip(
                polarityInverted,
                trimDb,
                faderDb,
                value,
                muted,
                soloed,
                soloSafe,
                output,
                inserts,
                sends,
                extraOutputs);
    }

    public Strip withMuted(boolean value) {
        return new Strip(
                polarityInverted,
                trimDb,
                faderDb,
                placement,
                value,
                soloed,
                soloSafe,
                output,
                inserts,
                sends,
                extraOutputs);
    }

    public Strip withSoloed(boolean value) {
        return new Strip(
                polarityInverted,
                trimDb,
                faderDb,
                placement,
                muted,
                value,
                soloSafe,
                output,
                inserts,
                sends,
                extraOutputs);
    }

    public Strip withSoloSafe(boolean value) {
        return new Strip(
                polarityInverted,
                trimDb,
                faderDb,
                placement,
                muted,
                soloed,
                value,
                output,
                inserts,
                sends,
                extraOutputs);
    }

    public Strip withOutput(Output value) {
        return new Strip(
                polarityInverted,
                trimDb,
                faderDb,
                placement,
                muted,
                soloed,
                soloSafe,
                value,
                inserts,
                sends,
                extraOutputs);
    }

    public Strip withInserts(List<Insert> value) {
        return new Strip(
                polarityInverted,
                trimDb,
                faderDb,
                placement,
                muted,
                soloed,
                soloSafe,
                output,
                value,
                sends,
                extraOutputs);
    }

    public Strip withSends(List<Send> value) {
        return new Strip(
                polarityInverted,
                trimDb,
                faderDb,
                placement,
                muted,
                soloed,
                soloSafe,
                output,
                inserts,
                value,
                extraOutputs);
    }

    public Strip withExtraOutputs(List<ChannelId> value) {
        return new Strip(
                polarityInverted, trimDb, faderDb, placement, muted, soloed, soloSafe, output, inserts, sends, value);
    }
}
