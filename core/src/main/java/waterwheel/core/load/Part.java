package waterwheel.core.load;

import java.util.Optional;
import waterwheel.core.engine.SignalId;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.session.ChannelId;

/**
 * What takes time.
 *
 * @param channel empty for what only listens, such as meters
 * @param slot empty for all of the channel but its slots: clips, sums, gains, delays
 */
public record Part(Optional<ChannelId> channel, Optional<SlotId> slot) {
    /** What only listens. */
    public static final Part METERS = new Part(Optional.empty(), Optional.empty());

    static Part of(SignalId id) {
        Optional<SlotId> slot =
                switch (id.point()) {
                    case INSERT, SENT, RETURNED, ALIGNED, KEY -> Optional.of(new SlotId(id.part()));
                    default -> Optional.empty();
                };
        return new Part(Optional.of(id.channel()), slot);
    }
}
