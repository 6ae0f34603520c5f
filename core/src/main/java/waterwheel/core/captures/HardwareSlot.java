package waterwheel.core.captures;

import java.util.ArrayList;
import java.util.List;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;

/** A slot whose signal leaves the computer. */
public record HardwareSlot(ChannelId channel, SlotId slot) {
    /** All of a session, in its order. */
    public static List<HardwareSlot> of(Session session) {
        List<HardwareSlot> all = new ArrayList<>();
        for (Channel channel : session.channels()) {
            for (Insert insert : channel.strip().inserts()) {
                if (insert.processor().kind().loops()) {
                    all.add(new HardwareSlot(channel.id(), insert.id()));
                }
            }
        }
        return all;
    }

    /**
     * What is in the slot.
     *
     * @throws IllegalArgumentException if the session has no such slot
     */
    public Insert insert(Session session) {
        return session.channel(channel).strip().inserts().stream()
                .filter(insert -> insert.id().equals(slot))
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException("slot: " + this + " (expected: one of the session)"));
    }

    /** The words on screen: the channel, and the unit where it was told. */
    public String label(Session session) {
        return session.channel(channel).name()
                + insert(session)
                        .processor()
                        .loop()
                        .unit()
                        .flatMap(session.rack()::unit)
                        .map(unit -> " \u203a " + unit.name())
                        .orElse("");
    }
}
