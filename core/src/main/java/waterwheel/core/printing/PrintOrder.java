package waterwheel.core.printing;

import java.util.List;
import java.util.Optional;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;

/**
 * What is to be printed of a channel.
 *
 * @param through the last slot that is in it where it goes up to a slot; empty for the trim
 * @param sends whether the new track has its sends
 * @param groups whether the new track is in its VCAs and link groups; never in VCAs that are in the print
 * @param keepSource whether the channel stays as it is beside the new track
 * @param name of the new track
 */
public record PrintOrder(
        ChannelId channel,
        Upto upto,
        Optional<SlotId> through,
        boolean sends,
        boolean groups,
        boolean keepSource,
        String name) {
    /** Stands for the channel's name in a pattern of names. */
    public static final String NAME = "{name}";

    public static final String USUAL_PATTERN = NAME + " print";

    public PrintOrder {
        if (name.isBlank()) {
            throw new IllegalArgumentException("name: blank (expected: a name)");
        }
    }

    /** Through a channel's last slot, in its place, with its sends and groups. */
    public static PrintOrder of(Channel channel) {
        List<Insert> inserts = channel.strip().inserts();
        return new PrintOrder(
                channel.id(),
                Upto.SLOT,
                inserts.isEmpty()
                        ? Optional.empty()
                        : Optional.of(inserts.getLast().id()),
                true,
                true,
                false,
                named(USUAL_PATTERN, channel));
    }

    /** A pattern with the channel's name in it; the name alone for a blank one. */
    public static String named(String pattern, Channel channel) {
        String name = pattern.replace(NAME, channel.name()).strip();
        return name.isEmpty() ? channel.name() : name;
    }

    public PrintOrder withUpto(Upto value) {
        return new PrintOrder(channel, value, through, sends, groups, keepSource, name);
    }

    public PrintOrder withThrough(Optional<SlotId> value) {
        return new PrintOrder(channel, Upto.SLOT, value, sends, groups, keepSource, name);
    }

    public PrintOrder withSends(boolean value) {
        return new PrintOrder(channel, upto, through, value, groups, keepSource, name);
    }

    public PrintOrder withGroups(boolean value) {
        return new PrintOrder(channel, upto, through, sends, value, keepSource, name);
    }

    public PrintOrder withKeepSource(boolean value) {
        return new PrintOrder(channel, upto, through, sends, groups, value, name);
    }

    public PrintOrder withName(String value) {
        return new PrintOrder(channel, upto, through, sends, groups, keepSource, value);
    }
}
