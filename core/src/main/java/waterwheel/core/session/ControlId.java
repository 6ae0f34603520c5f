package waterwheel.core.session;

import waterwheel.core.inserts.SlotId;

/**
 * A control of a session that can be ridden.
 *
 * @param owner a channel or a VCA
 * @param part what of it the control belongs to
 * @param key the control's key
 */
public record ControlId(ChannelId owner, Part part, String key) {
    /** What of a channel has controls. */
    public sealed interface Part {}

    /** Its own strip, or a VCA itself. */
    public record OfStrip() implements Part {}

    /**
     * One of its sends.
     *
     * @param number its place among them, from 0
     */
    public record OfSend(int number) implements Part {}

    /** One of its inserts. */
    public record OfInsert(SlotId slot) implements Part {}

    /** A control of a channel's strip, or of a VCA. */
    public static ControlId ofStrip(ChannelId owner, String key) {
        return new ControlId(owner, new OfStrip(), key);
    }

    /** A control of a send, by its place from 0. */
    public static ControlId ofSend(ChannelId owner, int number, String key) {
        return new ControlId(owner, new OfSend(number), key);
    }

    public static ControlId ofInsert(ChannelId owner, SlotId slot, String key) {
        return new ControlId(owner, new OfInsert(slot), key);
    }

    /** The control within its owner, as documents name it: {@code faderDb}, {@code send 1 levelDb}, {@code insert 2 mix}. */
    public String path() {
        return switch (part) {
            case OfStrip() -> key;
            case OfSend(int number) -> "send " + (number + 1) + " " + key;
            case OfInsert(SlotId slot) -> "insert " + slot + " " + key;
        };
    }
}
