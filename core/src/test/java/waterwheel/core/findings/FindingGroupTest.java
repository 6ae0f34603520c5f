package waterwheel.core.findings;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.levels.SessionMeasurement;
import waterwheel.core.session.Session;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.work.Progress;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class FindingGroupTest {
    @TempDir
    Path folder;

    private static Finding finding(Finding.Rule rule, String channel) {
        return new Finding(rule, Sessions.id(channel), "What.", "Do.", OptionalDouble.empty(), Optional.empty());
    }

    /** Tracks whose two sides are the same, soft enough for the mix to have headroom. */
    private Session twins(int count) throws Exception {
        Sessions made = new Sessions(folder);
        for (int i = 0; i < count; i++) {
            float[] tone = Signals.sine(300 + 50 * i, -30, 48_000, 1);
            made.track("t" + i, "main", tone, tone);
        }
        return made.build();
    }

    private List<Finding> of(Session session) {
        return Findings.of(SessionMeasurement.asShown(session, folder, Progress.NONE));
    }

    @Test
    void three_of_one_rule_are_told_together_and_two_are_not() {
        List<Finding> two = List.of(
                finding(Finding.Rule.MUTED_TRACK, "a"),
                finding(Finding.Rule.MUTED_TRACK, "b"),
                finding(Finding.Rule.DC_OFFSET, "a"));
        assertThat(FindingGroup.of(two)).hasSize(3).noneMatch(FindingGroup::isFolded);
        List<Finding> three = new ArrayList<>(two);
        three.add(finding(Finding.Rule.MUTED_TRACK, "c"));
        assertThat(FindingGroup.of(three))
                .extracting(group -> group.findings().size())
                .containsExactly(3, 1);
        assertThat(FindingGroup.of(three).getFirst().remedy()).isEmpty();
    }

    @Test
    void a_sentence_names_six_channels_and_counts_the_rest() throws Exception {
        Session session = twins(9);
        FindingGroup group = FindingGroup.of(of(session)).getFirst();
        assertThat(group.sentence(session))
                .isEqualTo("9 × Stereo files whose two sides are the same: t0, t1, t2, t3, t4, t5 and 3 more");
    }

    @Test
    void the_remedy_of_a_group_mends_all_of_it_in_one_step() throws Exception {
        Session session = twins(4);
        FindingGroup group = FindingGroup.of(of(session)).getFirst();
        assertThat(group.remedies()).isEqualTo(4);
        Session mended = group.remedy().orElseThrow().apply(session);
        assertThat(of(mended)).extracting(Finding::rule).doesNotContain(Finding.Rule.IDENTICAL_SIDES);
        assertThat(mended.tracks()).allMatch(track -> track.planes() == 1);
    }
}
