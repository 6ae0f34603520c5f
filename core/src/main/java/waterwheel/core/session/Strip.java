package waterwheel.core.session;

import java.util.List;
import java.util.Optional;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.rides.Control;
import waterwheel.core.rides.Ridable;
import waterwheel.core.rides.Ride;
import waterwheel.core.rides.Rides;
import waterwheel.core.rides.Scale;

/**
 * What every channel that carries audio has between its source and its destination, in signal order: polarity, trim,
 * inserts, fader, placement, output; its sends; and its mute and solo.
 *
 * @param inserts in signal order
 * @param rides of trim, fader, mute, position and width
 * @param freeze the channel's sound up to some slot, rendered; empty where it is computed
 */
public record Strip(
        Gains gains, List<Insert> inserts, Switches switches, Routing routing, Rides rides, Optional<Freeze> freeze)
        implements Ridable {
    public static final double TRIM_LIMIT_DB = 48;
    public static final double FADER_TOP_DB = 12;
    public static final Control TRIM = new Control("trimDb", "Trim", "dB", -TRIM_LIMIT_DB, TRIM_LIMIT_DB, Scale.PLAIN);
    public static final Control FADER =
            new Control("faderDb", "Fader", "dB", Control.SILENT_DB, FADER_TOP_DB, Scale.PLAIN);
    public static final Control MUTED = new Control("muted", "Mute", "", 0, 1, Scale.SWITCH);

    public Strip {
        inserts = List.copyOf(inserts);
    }

    /** A strip that is not frozen. */
    public Strip(Gains gains, List<Insert> inserts, Switches switches, Routing routing, Rides rides) {
        this(gains, inserts, switches, routing, rides, Optional.empty());
    }

    /** What of a channel itself can be ridden. */
    public static List<Control> controls() {
        return List.of(FADER, TRIM, MUTED, Placement.POSITION, Placement.WIDTH);
    }

    @Override
    public double value(String key) {
        return switch (key) {
            case "faderDb" -> faderDb();
            case "trimDb" -> trimDb();
            case "muted" -> muted() ? 1 : 0;
            default -> placement().value(key);
        };
    }

    @Override
    public Strip with(String key, double value) {
        return switch (key) {
            case "faderDb" -> withFaderDb(Math.min(value, FADER_TOP_DB));
            case "trimDb" -> withTrimDb(TRIM.limited(value));
            case "muted" -> withMuted(value >= 0.5);
            default -> withPlacement(placement().with(key, value));
        };
    }

    /**
     * Where the hand puts the fader or the trim, in dB: what it is set to, and while it is ridden the offset with it. The
     * written curve does not change by hand.
     */
    public double standingDb(Control control) {
        return value(control.key())
                + rides.active(control.key()).map(Ride::offset).orElse(0.0);
    }

    /** Returns the strip with the fader or the trim put elsewhere by hand, in dB. */
    public Strip withStandingDb(Control control, double db) {
        double set = value(control.key());
        if (rides.active(control.key()).isPresent()) {
            double offset = Math.clamp(db - (Double.isFinite(set) ? set : 0), -Ride.MOST_OFFSET, Ride.MOST_OFFSET);
            return withRides(
                    rides.with(control.key(), rides.active(control.key()).get().withOffset(offset)));
        }
        return control.equals(TRIM) ? withTrimDb(db) : withFaderDb(db);
    }

    /** A strip that changes nothing: all gains 0 dB, centred, neither muted nor soloed, no inserts and no sends. */
    public static Strip unity(Output output) {
        return new Strip(Gains.UNITY, List.of(), Switches.OFF, Routing.to(output), Rides.NONE);
    }

    public boolean polarityInverted() {
        return gains.polarityInverted();
    }

    public double trimDb() {
        return gains.trimDb();
    }

    public double faderDb() {
        return gains.faderDb();
    }

    public Placement placement() {
        return gains.placement();
    }

    public boolean muted() {
        return switches.muted();
    }

    public boolean soloed() {
        return switches.soloed();
    }

    public boolean soloSafe() {
        return switches.soloSafe();
    }

    public Output output() {
        return routing.output();
    }

    public List<ChannelId> extraOutputs() {
        return routing.extraOutputs();
    }

    public List<Send> sends() {
        return routing.sends();
    }

    /** The inserts that the signal runs through: those that are not bypassed all the time. */
    public List<Insert> activeInserts() {
        return inserts.stream().filter(Insert::runs).toList();
    }

    public Strip with(Gains value) {
        return new Strip(value, inserts, switches, routing, rides, freeze);
    }

    public Strip with(Switches value) {
        return new Strip(gains, inserts, value, routing, rides, freeze);
    }

    public Strip with(Routing value) {
        return new Strip(gains, inserts, switches, value, rides, freeze);
    }

    @Override
    public Strip withRides(Rides value) {
        return new Strip(gains, inserts, switches, routing, value, freeze);
    }

    public Strip withInserts(List<Insert> value) {
        return new Strip(gains, value, switches, routing, rides, freeze);
    }

    public Strip withFreeze(Optional<Freeze> value) {
        return new Strip(gains, inserts, switches, routing, rides, value);
    }

    /** The inserts that the frozen sound holds already; none where the strip is not frozen. */
    public List<Insert> frozenInserts() {
        return freeze.map(Freeze::through)
                .flatMap(through -> through)
                .map(slot -> inserts.subList(0, 1 + placeOf(slot)))
                .orElse(List.of());
    }

    /** A slot's place among the inserts; -1 where it is gone. */
    private int placeOf(SlotId slot) {
        return inserts.stream().map(Insert::id).toList().indexOf(slot);
    }

    public Strip withPolarityInverted(boolean value) {
        return with(new Gains(value, trimDb(), faderDb(), placement()));
    }

    public Strip withTrimDb(double value) {
        return with(new Gains(polarityInverted(), value, faderDb(), placement()));
    }

    public Strip withFaderDb(double value) {
        return with(new Gains(polarityInverted(), trimDb(), value, placement()));
    }

    public Strip withPlacement(Placement value) {
        return with(new Gains(polarityInverted(), trimDb(), faderDb(), value));
    }

    public Strip withMuted(boolean value) {
        return with(new Switches(value, soloed(), soloSafe()));
    }

    public Strip withSoloed(boolean value) {
        return with(new Switches(muted(), value, soloSafe()));
    }

    public Strip withSoloSafe(boolean value) {
        return with(new Switches(muted(), soloed(), value));
    }

    public Strip withOutput(Output value) {
        return with(new Routing(value, extraOutputs(), sends()));
    }

    public Strip withExtraOutputs(List<ChannelId> value) {
        return with(new Routing(output(), value, sends()));
    }

    public Strip withSends(List<Send> value) {
        return with(new Routing(output(), extraOutputs(), value));
    }
}
