package waterwheel.core.session;

import java.util.List;
import java.util.Optional;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.rides.Control;
import waterwheel.core.rides.Ridable;
import waterwheel.core.rides.Ride;
import waterwheel.core.rides.Rides;
import waterwheel.core.rides.Scale;
import waterwheel.core.units.Ranges;

/**
 * A branch of a channel's signal.
 *
 * @param target where it goes
 * @param levelDb gain of the branch, negative infinity to +12 dB
 * @param placement where it sits in the target; empty for the channel's own placement
 * @param preFader whether it is taken before the channel's fader
 * @param on whether anything is sent
 * @param rides of level, switch and placement
 */
public record Send(
        Target target, double levelDb, Optional<Placement> placement, boolean preFader, boolean on, Rides rides)
        implements Ridable {
    public static final Control LEVEL =
            new Control("levelDb", "Level", "dB", Control.SILENT_DB, Strip.FADER_TOP_DB, Scale.PLAIN);
    public static final Control ON = new Control("on", "On", "", 0, 1, Scale.SWITCH);

    /** Where a send goes. */
    public sealed interface Target {
        /** The channel that it reaches. */
        ChannelId channel();
    }

    /** Into a bus. */
    public record ToBus(ChannelId channel) implements Target {}

    /** To the key input of an insert: what it listens to, not what it processes. */
    public record ToKey(ChannelId channel, SlotId slot) implements Target {}

    public Send {
        levelDb = Ranges.checked("levelDb", levelDb, Double.NEGATIVE_INFINITY, Strip.FADER_TOP_DB);
    }

    /** A send without rides. */
    public Send(Target target, double levelDb, Optional<Placement> placement, boolean preFader, boolean on) {
        this(target, levelDb, placement, preFader, on, Rides.NONE);
    }

    /** What of a send can be ridden; its placement where it has one of its own. */
    public List<Control> controls() {
        return placement.isEmpty() ? List.of(LEVEL, ON) : List.of(LEVEL, ON, Placement.POSITION, Placement.WIDTH);
    }

    @Override
    public double value(String key) {
        return switch (key) {
            case "levelDb" -> levelDb;
            case "on" -> on ? 1 : 0;
            default -> placement.orElse(Placement.CENTRE).value(key);
        };
    }

    @Override
    public Send with(String key, double value) {
        return switch (key) {
            case "levelDb" -> withLevelDb(Math.min(value, Strip.FADER_TOP_DB));
            case "on" -> withOn(value >= 0.5);
            default ->
                withPlacement(Optional.of(placement.orElse(Placement.CENTRE).with(key, value)));
        };
    }

    /** Whether anything is sent, now or at some time. */
    public boolean connects() {
        return on || rides.active(ON.key()).isPresent();
    }

    /** Where the hand puts its level, in dB: what it is set to, and while it is ridden the offset with it. */
    public double standingDb() {
        return levelDb + rides.active(LEVEL.key()).map(Ride::offset).orElse(0.0);
    }

    /** Returns the send with its level put elsewhere by hand, in dB; the written curve stays. */
    public Send withStandingDb(double db) {
        return rides.active(LEVEL.key())
                .map(ride ->
                        withRides(rides.with(LEVEL.key(), ride.withOffset(db - Math.max(levelDb, Control.SILENT_DB)))))
                .orElseGet(() -> withLevelDb(db));
    }

    @Override
    public Send withRides(Rides value) {
        return new Send(target, levelDb, placement, preFader, on, value);
    }

    /** A post-fader send to a bus, with the channel's placement. */
    public static Send toBus(ChannelId bus, double levelDb) {
        return new Send(new ToBus(bus), levelDb, Optional.empty(), false, true);
    }

    /** A pre-fader send to a key input. */
    public static Send toKey(ChannelId channel, SlotId slot) {
        return new Send(new ToKey(channel, slot), 0, Optional.empty(), true, true);
    }

    public Send withLevelDb(double value) {
        return new Send(target, value, placement, preFader, on, rides);
    }

    public Send withPlacement(Optional<Placement> value) {
        return new Send(target, levelDb, value, preFader, on, rides);
    }

    public Send withPreFader(boolean value) {
        return new Send(target, levelDb, placement, value, on, rides);
    }

    public Send withOn(boolean value) {
        return new Send(target, levelDb, placement, preFader, value, rides);
    }
}
