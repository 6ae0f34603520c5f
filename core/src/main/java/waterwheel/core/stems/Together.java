package waterwheel.core.stems;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import waterwheel.core.processing.Descriptor;
import waterwheel.core.processing.Processors;
import waterwheel.core.routing.Wiring;
import waterwheel.core.session.Bus;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.StemDivision;

/**
 * What is done to several stems as one in a way that cannot be shared out, so that they do not add up to the mix exactly.
 *
 * @param buses where it is done, by name; none where all stems add up
 * @param instead settings under which they would add up; empty where there are none but to bypass what bends the sound
 */
public record Together(List<String> buses, Optional<Instead> instead) {
    public Together {
        buses = List.copyOf(buses);
    }

    /**
     * Other settings.
     *
     * @param label what they do, in few words
     * @param sentence the advice to take them
     */
    public record Instead(StemSettings settings, String label, String sentence) {}

    /** Looks at the stems of a whole session. */
    public static Together of(Session whole, StemSettings settings) {
        List<String> buses = buses(whole, settings);
        if (buses.isEmpty()) {
            return new Together(buses, Optional.empty());
        }
        List<Instead> possible = new ArrayList<>();
        possible.add(new Instead(
                settings.withTreatment(Treatment.AS_MIX),
                "Treat each as the mix",
                "Have buses treat each stem as the mix, and they add up."));
        possible.add(new Instead(
                settings.withTap(StemTap.BEFORE_MAIN),
                "Take them before main",
                "Take them before the main bus, and they add up."));
        possible.add(new Instead(
                settings.withDivision(settings.division().withBy(StemDivision.By.BUSES)),
                "One stem a bus",
                "Take a stem of each bus, and they add up."));
        return new Together(
                buses,
                possible.stream()
                        .filter(one -> buses(whole, one.settings()).isEmpty())
                        .findFirst());
    }

    /** A sentence that says what would make them add up; empty where they do. */
    String remedy() {
        return buses.isEmpty()
                ? ""
                : instead.map(Instead::sentence)
                        .orElse("What bends the sound itself cannot be shared out: bypass it there, and they add up.");
    }

    /** Buses whose inserts answer to what several stems are made of, so that a stem alone is treated otherwise. */
    private static List<String> buses(Session whole, StemSettings settings) {
        Session session = settings.tap().of(whole);
        List<StemGroup> groups = StemGroups.of(session, settings.division());
        Wiring wiring = Wiring.mixed(session);
        Set<Send.Target> keys = session.channels().stream()
                .flatMap(channel -> channel.strip().sends().stream())
                .filter(Send::connects)
                .map(Send::target)
                .collect(Collectors.toSet());
        return session.buses().stream()
                .filter(bus -> bus.strip().activeInserts().stream()
                        .anyMatch(i -> answersToPart(Processors.of(i.processor().kind()), settings.treatment())
                                && !keys.contains(new Send.ToKey(bus.id(), i.id()))))
                // What is a stem with all that it is sent is treated whole.
                .filter(bus ->
                        groups.stream().noneMatch(group -> group.returns().contains(bus.id())))
                .filter(bus -> several(groups, wiring.upstream(List.of(bus.id()))))
                .map(Bus::name)
                .toList();
    }

    private static boolean several(List<StemGroup> groups, Set<ChannelId> before) {
        return groups.stream()
                        .filter(group -> !Collections.disjoint(before, group.tracks())
                                || !Collections.disjoint(before, group.returns()))
                        .count()
                > 1;
    }

    private static boolean answersToPart(Descriptor processor, Treatment treatment) {
        return processor.answersToLevel() && !(treatment.sharesGain() && processor.sharesGain());
    }
}
