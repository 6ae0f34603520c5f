package waterwheel.core.session;

import java.util.Optional;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.units.Ranges;

/**
 * A branch of a channel's signal.
 *
 * @param target where it goes
 * @param levelDb gain of the branch, negative infinity to +12 dB
 * @param placement where it sits in the target; empty for the channel's own placement
 * @param preFader whether it is taken before the channel's fader
 * @param on whether anything is sent
 */
public record Send(Target target, double levelDb, Optional<Placement> placement, boolean preFader, boolean on) {
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

    /** A post-fader send to a bus, with the channel's placement. */
    public static Send toBus(ChannelId bus, double levelDb) {
        return new Send(new ToBus(bus), levelDb, Optional.empty(), false, true);
    }

    /** A pre-fader send to a key input. */
    public static Send toKey(ChannelId channel, SlotId slot) {
        return new Send(new ToKey(channel, slot), 0, Optional.empty(), true, true);
    }

    public Send withLevelDb(double value) {
        return new Send(target, value, placement, preFader, on);
    }

    public Send withPlacement(Optional<Placement> value) {
        return new Send(target, levelDb, value, preFader, on);
    }

    public Send withPreFader(boolean value) {
        return new Send(target, levelDb, placement, value, on);
    }

    public Send withOn(boolean value) {
        return new Send(target, levelDb, placement, preFader, value);
    }
}
