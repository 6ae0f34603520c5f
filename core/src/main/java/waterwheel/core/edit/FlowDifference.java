package waterwheel.core.edit;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import waterwheel.core.inserts.Insert;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.LinkGroup;
import waterwheel.core.session.NamedStem;
import waterwheel.core.session.Output;
import waterwheel.core.session.Session;
import waterwheel.core.session.StemDivision;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Vca;
import waterwheel.core.units.LevelText;

/** How the flow of one state of a session differs from another's, in words. */
public final class FlowDifference {
    private FlowDifference() {}

    /** A sentence for each change, channel by channel; none where the flow is the same. */
    public static List<String> of(Session before, Session after) {
        List<String> sentences = new ArrayList<>();
        for (Channel channel : after.channels()) {
            Optional<Channel> was = before.find(channel.id());
            if (was.isEmpty()) {
                sentences.add(channel.name() + " is new: to " + destination(after, channel.strip())
                        + inserted(channel.strip()) + ".");
            } else {
                List<String> changes = changes(before, was.get(), after, channel);
                if (!changes.isEmpty()) {
                    sentences.add(channel.name() + ": " + String.join("; ", changes) + ".");
                }
            }
        }
        groups(before, after, sentences);
        stems(before, after, sentences);
        if (before.panLaw() != after.panLaw()) {
            sentences.add("Pan law " + after.panLaw().label() + " instead of "
                    + before.panLaw().label() + ".");
        }
        if (before.nominalDbfs() != after.nominalDbfs()) {
            sentences.add("Nominal level " + LevelText.level(after.nominalDbfs(), "dBFS") + " instead of "
                    + LevelText.level(before.nominalDbfs(), "dBFS") + ".");
        }
        if (!before.staging().equals(after.staging())) {
            sentences.add("Other staging targets.");
        }
        return sentences;
    }

    private static List<String> changes(Session before, Channel was, Session after, Channel is) {
        Strip old = was.strip();
        Strip now = is.strip();
        List<String> changes = new ArrayList<>();
        add(changes, "to", destination(before, old), destination(after, now));
        add(changes, "inserts", names(old), names(now));
        if (names(old).equals(names(now)) && !old.inserts().equals(now.inserts())) {
            changes.add("other settings of " + names(now));
        }
        add(changes, "sends", sends(before, old), sends(after, now));
        if (sends(before, old).equals(sends(after, now)) && !old.sends().equals(now.sends())) {
            changes.add("other levels of its sends");
        }
        add(changes, "trim", LevelText.change(old.trimDb()), LevelText.change(now.trimDb()));
        add(changes, "fader", LevelText.change(old.faderDb()), LevelText.change(now.faderDb()));
        if (!old.placement().equals(now.placement())) {
            changes.add("another placement");
        }
        if (old.muted() != now.muted()) {
            changes.add(now.muted() ? "muted" : "not muted");
        }
        if (!old.rides().equals(now.rides())) {
            changes.add("other rides");
        }
        return changes;
    }

    private static void add(List<String> changes, String what, String was, String is) {
        if (!was.equals(is)) {
            changes.add(what + " " + is + " instead of " + was);
        }
    }

    private static String destination(Session session, Strip strip) {
        String first =
                switch (strip.output()) {
                    case Output.ToBus(ChannelId bus) -> session.channel(bus).name();
                    case Output.ToInterface pair -> pair.label();
                    case Output.Nowhere() -> "nowhere";
                };
        return strip.extraOutputs().stream()
                .map(bus -> session.channel(bus).name())
                .collect(Collectors.joining(", ", first + (strip.extraOutputs().isEmpty() ? "" : ", "), ""));
    }

    private static String names(Strip strip) {
        return strip.inserts().isEmpty()
                ? "none"
                : strip.inserts().stream()
                        .map(Insert::processor)
                        .map(processor -> processor.kind().label())
                        .collect(Collectors.joining(", "));
    }

    private static String inserted(Strip strip) {
        return strip.inserts().isEmpty() ? "" : ", with " + names(strip);
    }

    private static String sends(Session session, Strip strip) {
        return strip.sends().isEmpty()
                ? "none"
                : strip.sends().stream()
                        .map(send -> session.channel(send.target().channel()).name())
                        .collect(Collectors.joining(", "));
    }

    private static void stems(Session before, Session after, List<String> sentences) {
        StemDivision was = before.stems();
        StemDivision is = after.stems();
        if (was.by() != is.by()) {
            sentences.add(
                    "Stems by " + is.by().label() + " instead of by " + was.by().label() + ".");
        }
        if (was.returnsApart() != is.returnsApart()) {
            sentences.add(
                    is.returnsApart() ? "Returns are stems of their own." : "Every stem has its share of returns.");
        }
        for (NamedStem stem : is.named()) {
            group(
                    "Stem " + stem.name(),
                    was.find(stem.id()),
                    stem,
                    ", of " + stem.members().size(),
                    "put together",
                    sentences);
        }
        for (NamedStem stem : was.named()) {
            if (is.find(stem.id()).isEmpty()) {
                sentences.add("Stem " + stem.name() + " goes.");
            }
        }
    }

    private static void groups(Session before, Session after, List<String> sentences) {
        for (Vca vca : after.vcas()) {
            group(
                    "VCA " + vca.name(),
                    before.findVca(vca.id()),
                    vca,
                    ", over " + vca.members().size(),
                    "set",
                    sentences);
        }
        for (LinkGroup link : after.links()) {
            Optional<LinkGroup> was = before.links().stream()
                    .filter(one -> one.id().equals(link.id()))
                    .findFirst();
            group(
                    "Link group " + link.name(),
                    was,
                    link,
                    ", of " + link.members().size(),
                    "set",
                    sentences);
        }
    }

    /**
     * Tells of what has members.
     *
     * @param of how many it has, behind the word that it is new
     * @param made what is done otherwise where it was there
     */
    private static <T> void group(String name, Optional<T> was, T is, String of, String made, List<String> sentences) {
        if (was.isEmpty()) {
            sentences.add(name + " is new" + of + " members.");
        } else if (!was.get().equals(is)) {
            sentences.add(name + " is " + made + " otherwise.");
        }
    }
}
