package waterwheel.core.findings;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import waterwheel.core.edit.Edit;
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
        Map<Finding.Rule, List<Finding>> byRule =
                all.stream().collect(Collectors.groupingBy(Finding::rule, LinkedHashMap::new, Collectors.toList()));
        return byRule.values().stream()
                .flatMap(same -> same.size() < FEWEST_TOGETHER
                        ? same.stream().map(one -> new FindingGroup(List.of(one)))
                        : Stream.of(new FindingGroup(same)))
                .toList();
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
        List<String> names = findings.stream()
                .map(Finding::channel)
                .distinct()
                .map(id -> session.channel(id).name())
                .toList();
        String some = String.join(", ", names.subList(0, Math.min(MOST_NAMES, names.size())));
        int more = names.size() - MOST_NAMES;
        return findings.size() + " × " + rule().label() + ": " + some + (more > 0 ? " and " + more + " more" : "");
    }

    /** How many of them have a remedy. */
    public int remedies() {
        return each().size();
    }

    /** All remedies in one step; empty where there is none. */
    public Optional<Edit> remedy() {
        List<Edit> each = each();
        return each.isEmpty()
                ? Optional.empty()
                : Optional.of(Edit.together("Remedy for " + each.size() + " × " + rule().label(), each));
    }

    private List<Edit> each() {
        return findings.stream().flatMap(f -> f.remedy().stream()).toList();
    }
}
