package waterwheel.desktop.load;

import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import waterwheel.core.freezing.FreezeRun;
import waterwheel.core.inserts.Insert;
import waterwheel.core.load.Load;
import waterwheel.core.load.Part;
import waterwheel.core.load.PartLoad;
import waterwheel.core.load.Saving;
import waterwheel.core.session.Channel;
import waterwheel.core.session.Session;

/**
 * One line of the list.
 *
 * @param what the processor in its slot; what else the channel takes
 * @param saves what freezing the channel up to this slot would save; empty where that is not known
 */
record LoadRow(String channel, String what, PartLoad load, OptionalDouble saves) {
    /** A line for all that was measured and is still in the session. */
    static List<LoadRow> of(Load load, Session session) {
        return load.parts().stream()
                .flatMap(one -> row(load, session, one).stream())
                .toList();
    }

    private static Optional<LoadRow> row(Load load, Session session, PartLoad one) {
        Part part = one.part();
        if (part.channel().isEmpty()) {
            return Optional.of(new LoadRow("Meters", "of all channels", one, OptionalDouble.empty()));
        }
        Optional<Channel> channel = session.find(part.channel().get());
        if (channel.isEmpty() || part.slot().isEmpty()) {
            return channel.map(known -> new LoadRow(known.name(), rest(known), one, OptionalDouble.empty()));
        }
        return channel.get().strip().inserts().stream()
                .filter(insert -> insert.id().equals(part.slot().get()))
                .findFirst()
                .map(insert -> slot(load, session, channel.get(), insert, one));
    }

    private static LoadRow slot(Load load, Session session, Channel channel, Insert insert, PartLoad one) {
        FreezeRun.Wanted wanted = new FreezeRun.Wanted(channel.id(), Optional.of(insert.id()));
        boolean main = channel.id().equals(session.mainId());
        return new LoadRow(
                channel.name(),
                insert.processor().kind().label(),
                one,
                main ? OptionalDouble.empty() : Saving.of(load, session, List.of(wanted)));
    }

    static String inWords(Part part, Session session) {
        Optional<Channel> channel = part.channel().flatMap(session::find);
        return channel.map(known -> known.name()
                        + known.strip().inserts().stream()
                                .filter(insert ->
                                        part.slot().filter(insert.id()::equals).isPresent())
                                .findFirst()
                                .map(insert -> ", " + insert.processor().kind().label())
                                .orElse(""))
                .orElse("meters");
    }

    private static String rest(Channel channel) {
        return channel.strip().freeze().isPresent() ? "frozen sound, gains and sums" : "clips, gains and sums";
    }
}
