package waterwheel.core.findings;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import waterwheel.core.edit.Edit;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;

/**
 * Findings of one rule, which are told together where they are many.
 *
 * @param findings one or more, of one rule
 */
public record FindingGroup(List<Finding> findings) {
    /** Fewer of one rule stand for themselves. */
    private static final int FEWEST_TOGETHER = 3;
    /** So many names can be taken in at a glance. */
    private static final int MOST_NAMES = 6;

    public FindingGroup {
        findings = List.copyOf(findings);
    }

    /** Puts findings of one rule together where there are three or more, in the order that they have. */
    public static List<FindingGroup> of(List<Finding> all) {
        List<FindingGroup> groups = new ArrayList<>();
        for (Finding.Rule rule : all.stream().map(Finding::rule).distinct().toList()) {
            List<Finding> same = all.stream().filter(f -> f.rule() == rule).toList();
            if (same.size() < FEWEST_TOGETHER) {
                same.forEach(one -> groups.add(new FindingGroup(List.of(one))));
            } else {
                groups.add(new FindingGroup(same));
            }
        }
        return groups;
    }

    /** Whether it stands for several. */
    public boolean isFolded() {
        return findings.size() > 1;
    }

    public Finding.Rule rule() {
        return findings.getFirst().rule();
    }

    /** What they have in common and whom they are about, such as {@code 3 × Muted tracks: Click, Fiddle 1, Fiddle 2}. */
    public String sentence(Session session) {
        List<String> names = channels().map(id -> session.channel(id).name()).toList();
        String some = String.join(", ", names.subList(0, Math.min(MOST_NAMES, names.size())));
        int more = names.size() - MOST_NAMES;
        return findings.size() + " × " + rule().label() + ": " + some + (more > 0 ? " and " + more + " more" : "");
    }

    /** The channels that they are about, each once. */
    public Stream<ChannelId> channels() {
        return findings.stream().map(Finding::channel).distinct();
    }

    /** How many of them have a remedy. */
    public int remedies() {
        return (int) findings.stream().flatMap(f -> f.remedy().stream()).count();
    }

    /** All remedies in one step; empty where there is none. */
    public Optional<Edit> remedy() {
        List<Edit> each = findings.stream().flatMap(f -> f.remedy().stream()).toList();
        return each.isEmpty()
                ? Optional.empty()
                : Optional.of(Edit.together("Remedy for " + each.size() + " × " + rule().label(), each));
    }
}
