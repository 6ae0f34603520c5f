package waterwheel.core.edit;

import java.util.ArrayList;
import java.util.List;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.NamedStem;
import waterwheel.core.session.StemDivision;

/** The edits of how a mix is divided into stems. A channel is in one named stem at most. */
public final class StemEdits {
    private StemEdits() {}

    /** Chooses what makes a stem. */
    public static Edit by(StemDivision.By value) {
        return division("Stems by " + value.label(), stems -> stems.withBy(value));
    }

    /** Makes each return a stem of its own, or shares them out. */
    public static Edit returnsApart(boolean value) {
        return division(value ? "Returns as stems" : "Returns shared out", stems -> stems.withReturnsApart(value));
    }

    /** Puts channels together to a stem. */
    public static Edit add(String name, List<ChannelId> members) {
        return new Edit("New stem " + name, session -> {
            List<NamedStem> named = new ArrayList<>(without(session.stems().named(), members));
            List<String> taken = named.stream().map(NamedStem::name).toList();
            named.add(new NamedStem(FlowEdits.freeId(session, "s"), FlowEdits.free(name, taken), members));
            return session.withStems(
                    session.stems().withBy(StemDivision.By.NAMED).withNamed(named));
        });
    }

    /** Names a stem. */
    public static Edit rename(NamedStem stem, String name) {
        return named("Name of stem " + stem.name(), all -> changed(all, stem, one -> one.withName(name.strip())));
    }

    /** Puts channels into a stem, out of others. */
    public static Edit put(NamedStem stem, List<ChannelId> members) {
        return named(
                "Into stem " + stem.name(),
                all -> changed(
                        without(all, members),
                        stem,
                        one -> one.withMembers(Stream.concat(one.members().stream(), members.stream())
                                .toList())));
    }

    /** Takes channels out of the stems that they were put into. */
    public static Edit takeOut(List<ChannelId> members) {
        return named("Out of a stem", all -> without(all, members));
    }

    /** Takes a stem away; its channels are stems by themselves again. */
    public static Edit remove(NamedStem stem) {
        return named(
                "Removal of stem " + stem.name(),
                all -> all.stream().filter(one -> !one.id().equals(stem.id())).toList());
    }

    private static Edit named(String name, UnaryOperator<List<NamedStem>> change) {
        return division(name, stems -> stems.withNamed(change.apply(stems.named())));
    }

    private static Edit division(String name, UnaryOperator<StemDivision> change) {
        return new Edit(name, session -> {
            StemDivision now = change.apply(session.stems());
            return now.equals(session.stems()) ? session : session.withStems(now);
        });
    }

    private static List<NamedStem> changed(List<NamedStem> all, NamedStem stem, UnaryOperator<NamedStem> change) {
        return all.stream()
                .map(one -> one.id().equals(stem.id()) ? change.apply(one) : one)
                .toList();
    }

    private static List<NamedStem> without(List<NamedStem> all, List<ChannelId> members) {
        return all.stream()
                .map(one -> one.withMembers(one.members().stream()
                        .filter(member -> !members.contains(member))
                        .toList()))
                .toList();
    }
}
