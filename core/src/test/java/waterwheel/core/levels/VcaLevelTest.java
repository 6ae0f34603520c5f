package waterwheel.core.levels;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.metering.Figures;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.session.Vca;
import waterwheel.core.testing.Sessions;
import waterwheel.core.work.Progress;

/** A VCA's level is its loudest member's. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class VcaLevelTest {
    private static final int FRAMES = 4_800;
    private static final ChannelId QUIET_MONO = Sessions.id("quiet-mono");
    private static final ChannelId LOUD_MONO = Sessions.id("loud-mono");
    private static final ChannelId QUIET_STEREO = Sessions.id("quiet-stereo");
    private static final ChannelId LOUD_STEREO = Sessions.id("loud-stereo");

    @TempDir
    Path folder;

    private Session session;

    @BeforeEach
    void two_mono_and_two_stereo_tracks() throws Exception {
        session = new Sessions(folder)
                .track("quiet-mono", "main", steady(0.125f))
                .track("loud-mono", "main", steady(0.5f))
                .track("quiet-stereo", "main", steady(0.25f), steady(0.125f))
                .track("loud-stereo", "main", steady(0.25f), steady(0.75f))
                .build();
    }

    private static float[] steady(float value) {
        float[] samples = new float[FRAMES];
        Arrays.fill(samples, value);
        return samples;
    }

    private static Vca vca(List<ChannelId> members, List<ChannelId> exempt, double faderDb) {
        return new Vca(Sessions.id("vca"), "VCA", faderDb, false, members, exempt);
    }

    private Optional<VcaLevel> level(Vca vca) {
        Session with = session.withVcas(List.of(vca));
        SessionLevels levels = SessionMeasurement.of(with, folder, Progress.NONE);
        return VcaLevel.of(with, vca, levels::asked);
    }

    private static void assertPeak(Figures side, double linear, double gainDb) {
        assertThat(side.samplePeakDbfs()).isCloseTo(20 * Math.log10(linear) + gainDb, within(1e-5));
    }

    @Test
    void mono_members_have_one_level_that_of_the_loudest_behind_its_fader() {
        VcaLevel level =
                level(vca(List.of(QUIET_MONO, LOUD_MONO), List.of(), -6)).orElseThrow();
        assertThat(level.loudest()).isEqualTo(LOUD_MONO);
        assertThat(level.sides()).singleElement().satisfies(side -> assertPeak(side, 0.5, -6));
    }

    @Test
    void stereo_members_have_left_and_right() {
        VcaLevel level =
                level(vca(List.of(QUIET_STEREO, LOUD_STEREO), List.of(), 3)).orElseThrow();
        assertThat(level.loudest()).isEqualTo(LOUD_STEREO);
        assertThat(level.sides()).hasSize(2);
        assertPeak(level.sides().getFirst(), 0.25, 3);
        assertPeak(level.sides().getLast(), 0.75, 3);
    }

    @Test
    void members_of_both_formats_have_one_level_whichever_is_the_loudest() {
        VcaLevel stereo =
                level(vca(List.of(LOUD_MONO, LOUD_STEREO), List.of(), 0)).orElseThrow();
        assertThat(stereo.sides()).singleElement().satisfies(side -> assertPeak(side, 0.75, 0));
        VcaLevel mono =
                level(vca(List.of(LOUD_MONO, QUIET_STEREO), List.of(), 0)).orElseThrow();
        assertThat(mono.sides()).singleElement().satisfies(side -> assertPeak(side, 0.5, 0));
    }

    @Test
    void an_exempt_member_does_not_count() {
        VcaLevel level = level(vca(List.of(QUIET_MONO, LOUD_STEREO), List.of(LOUD_STEREO), -1))
                .orElseThrow();
        assertThat(level.loudest()).isEqualTo(QUIET_MONO);
        assertThat(level.sides()).singleElement().satisfies(side -> assertPeak(side, 0.125, -1));
    }

    @Test
    void members_of_a_nested_VCA_count_with_both_gains() {
        Vca inner = vca(List.of(QUIET_MONO), List.of(), -2);
        Vca outer = new Vca(Sessions.id("outer"), "Outer", -3, false, List.of(inner.id()), List.of());
        Session with = session.withVcas(List.of(inner, outer));
        SessionLevels levels = SessionMeasurement.of(with, folder, Progress.NONE);
        VcaLevel level = VcaLevel.of(with, outer, levels::asked).orElseThrow();
        assertThat(level.sides()).singleElement().satisfies(side -> assertPeak(side, 0.125, -5));
    }

    @Test
    void a_stereo_channel_that_has_just_become_a_member_is_pending() {
        SessionLevels before = SessionMeasurement.of(session, folder, Progress.NONE);
        Vca vca = vca(List.of(LOUD_STEREO), List.of(), 0);
        assertThat(VcaLevel.of(session.withVcas(List.of(vca)), vca, before::asked))
                .isEmpty();
    }

    @Test
    void at_the_bottom_it_is_silent_and_without_members_or_while_one_is_pending_there_is_no_level() {
        VcaLevel silent = level(vca(List.of(LOUD_MONO), List.of(), Double.NEGATIVE_INFINITY))
                .orElseThrow();
        assertThat(silent.sides().getFirst().silent()).isTrue();
        assertThat(level(vca(List.of(), List.of(), 0))).isEmpty();
        Vca both = vca(List.of(QUIET_MONO, LOUD_MONO), List.of(), 0);
        SessionLevels levels = SessionMeasurement.of(session.withVcas(List.of(both)), folder, Progress.NONE);
        assertThat(VcaLevel.of(session, both, id -> id.equals(LOUD_MONO) ? Optional.empty() : levels.asked(id)))
                .isEmpty();
    }
}
