package waterwheel.core.findings;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import org.jspecify.annotations.Nullable;
import waterwheel.core.edit.Edit;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;

/** Findings as they are found. */
final class FindingList {
    private final List<Finding> found = new ArrayList<>();

    /** Adds a finding; without a remedy where only a person can do what is advised. */
    void add(
            Finding.Rule rule,
            Channel channel,
            String sentence,
            String advice,
            OptionalDouble atSeconds,
            @Nullable Edit remedy) {
        found.add(new Finding(rule, channel.id(), sentence, advice, atSeconds, Optional.ofNullable(remedy)));
    }

    boolean has(Finding.Rule rule, Channel channel) {
        return found.stream().anyMatch(f -> f.rule() == rule && f.channel().equals(channel.id()));
    }

    /** All of them, the most serious rule first, then in the session's order. */
    List<Finding> sorted(Session session) {
        List<ChannelId> order = session.channels().stream().map(Channel::id).toList();
        return found.stream()
                .sorted(Comparator.comparing(Finding::rule).thenComparing(f -> order.indexOf(f.channel())))
                .toList();
    }
}
