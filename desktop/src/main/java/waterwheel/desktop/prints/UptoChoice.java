package waterwheel.desktop.prints;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.levels.ChannelLevels;
import waterwheel.core.metering.Figures;
import waterwheel.core.path.Stage;
import waterwheel.core.printing.PrintOrder;
import waterwheel.core.printing.Upto;
import waterwheel.core.session.Channel;

/**
 * Up to where a print goes.
 *
 * @param slot the last slot where it goes up to one; empty for the trim, and for every channel's last one
 * @param last whether it is every channel's last slot
 */
record UptoChoice(String label, Upto upto, Optional<SlotId> slot, boolean last) {
    private static final List<UptoChoice> BEHIND = List.of(
            new UptoChoice("with the fader", Upto.FADER, Optional.empty(), false),
            new UptoChoice("with fader and placement", Upto.PLACEMENT, Optional.empty(), false),
            new UptoChoice("with fader, placement and mute", Upto.MUTE, Optional.empty(), false));

    /** What there is to choose from, the usual first. */
    static List<UptoChoice> of(List<Channel> channels) {
        List<UptoChoice> all = new ArrayList<>();
        all.add(new UptoChoice("through the last slot", Upto.SLOT, Optional.empty(), true));
        all.addAll(BEHIND);
        if (channels.size() == 1) {
            for (Insert insert : channels.getFirst().strip().inserts()) {
                all.add(new UptoChoice(
                        "through " + insert.processor().kind().label(), Upto.SLOT, Optional.of(insert.id()), false));
            }
        }
        all.add(new UptoChoice("up to the trim", Upto.SLOT, Optional.empty(), false));
        return all;
    }

    PrintOrder order(Channel channel) {
        PrintOrder usual = PrintOrder.of(channel);
        return upto != Upto.SLOT ? usual.withUpto(upto) : last ? usual : usual.withThrough(slot);
    }

    /** The level of what would be printed of a channel. */
    static Figures figures(PrintOrder order, Channel channel, ChannelLevels levels) {
        return switch (order.upto()) {
            case FADER -> levels.at(Stage.FADER);
            case PLACEMENT -> levels.at(Stage.PLACEMENT);
            case MUTE -> levels.at(Stage.OUTPUT);
            case SLOT -> {
                List<SlotId> slots =
                        channel.strip().inserts().stream().map(Insert::id).toList();
                int at = order.through().map(slots::indexOf).orElse(-1);
                Optional<Figures> found = Optional.empty();
                // A bypassed slot passes on what it gets.
                while (at >= 0 && found.isEmpty()) {
                    found = levels.after(slots.get(at));
                    at--;
                }
                yield found.orElseGet(() -> levels.at(Stage.TRIM));
            }
        };
    }
}
