package waterwheel.core.levels;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.metering.Detail;
import waterwheel.core.processing.Limiter;
import waterwheel.core.processing.Saturator;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class PeakSharesTest {
    private static final ChannelId DRUMS = Sessions.id("drums");

    @TempDir
    Path folder;

    @Test
    void who_fills_a_peak_is_told_with_signs_and_adds_up() throws Exception {
        float[] one = new float[1_000];
        float[] two = new float[1_000];
        one[400] = 0.5f;
        two[400] = -0.2f;
        two[700] = 0.25f;
        Session session = new Sessions(folder)
                .track("kick", "drums", one, one)
                .track("snare", "drums", two, two)
                .bus("drums", "main")
                .build();
        PeakShares shares = SessionMeasurement.of(
                        session, folder, song -> song.peakShares(session, DRUMS, Progress.NONE))
                .orElseThrow();
        // At frame 400: 0.5 - 0.2; at 700 only 0.25.
        assertThat(shares.atSeconds()).isCloseTo(400 / 48_000.0, within(1e-9));
        assertThat(shares.peak()).isCloseTo(0.3, within(1e-6));
        assertThat(shares.shares())
                .extracting(PeakShares.Share::from)
                .containsExactly(Sessions.id("kick"), Sessions.id("snare"));
        assertThat(shares.shares().getFirst().value()).isCloseTo(0.5, within(1e-6));
        assertThat(shares.shares().getLast().value()).isCloseTo(-0.2, within(1e-6));
    }

    /** Behind processors and delays, from what was kept and from the song's beginning: the same shares. */
    @Test
    void samples_in_hand_tell_the_same_as_the_song_run_again() throws Exception {
        Session session = new Sessions(folder)
                .track("one", "drums", Signals.noise(0.3, 96_000, 1), Signals.noise(0.3, 96_000, 2))
                .track("two", "drums", Signals.noise(0.4, 96_000, 3), Signals.noise(0.4, 96_000, 4))
                .track("three", "drums", Signals.noise(0.2, 96_000, 5))
                .bus("drums", "main")
                .build()
                .withStrip(Sessions.id("one"), s -> s.withInserts(List.of(Insert.of(new SlotId("1"), Saturator.KIND))))
                .withStrip(Sessions.id("two"), s -> s.withInserts(List.of(Insert.of(new SlotId("1"), Limiter.KIND))));
        try (Media media = Media.open(session, folder);
                Team team = new Team(2);
                SongMeasure kept =
                        new SongMeasure(media, team, Detail.EVERYTHING, Detail.EVERYTHING, MeasureCache.none())) {
            Plan plan = PlanCompiler.compile(session);
            kept.measure(plan, StageLevels.wanted(plan), Progress.NONE);
            PeakShares quick = kept.peakShares(session, DRUMS, Progress.NONE).orElseThrow();
            kept.forgetSamples();
            PeakShares again = kept.peakShares(session, DRUMS, Progress.NONE).orElseThrow();
            assertThat(quick).isEqualTo(again);
            double sum =
                    quick.shares().stream().mapToDouble(PeakShares.Share::value).sum();
            assertThat(sum).isCloseTo(quick.peak(), within(1e-6));
        }
    }
}
