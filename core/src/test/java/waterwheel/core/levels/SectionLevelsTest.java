package waterwheel.core.levels;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatIllegalArgumentException;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import java.util.Objects;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.edit.SectionEdits;
import waterwheel.core.metering.Detail;
import waterwheel.core.metering.Figures;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Section;
import waterwheel.core.session.Session;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.work.Progress;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class SectionLevelsTest {
    private static final int RATE = 48_000;
    private static final ChannelId TONE = Sessions.id("tone");
    /** Begins and ends between steps of 10 ms. */
    private static final Section LOUD = new Section("Loud", 6 * RATE + 100, 11 * RATE + 77);

    @TempDir
    Path folder;

    private Session session;

    @BeforeEach
    void soft_then_loud_then_soft() throws Exception {
        float[] left = Signals.joined(
                Signals.sine(997, -30, RATE, 6), Signals.sine(997, -10, RATE, 6), Signals.sine(997, -30, RATE, 6));
        float[] right = Signals.joined(
                Signals.sine(997, -36, RATE, 6), Signals.sine(997, -16, RATE, 6), Signals.sine(997, -36, RATE, 6));
        session = new Sessions(folder).track("tone", "main", left, right).build();
    }

    private Figures watched(Section section) throws Exception {
        CompletableFuture<SessionLevels> done = new CompletableFuture<>();
        try (LevelWatch watch = new LevelWatch(
                folder,
                levels -> {
                    if (levels.complete()) {
                        done.complete(levels);
                    }
                },
                done::completeExceptionally)) {
            watch.submit(session, section);
            SessionLevels levels = done.get(30, TimeUnit.SECONDS);
            assertThat(levels.of(TONE).orElseThrow().first().rmsDbfs()).isCloseTo(-14.73, within(0.05));
            return levels.asked(TONE).orElseThrow().first();
        }
    }

    @Test
    void a_section_reads_its_own_level_and_not_the_songs() throws Exception {
        Figures loud = watched(LOUD);
        assertThat(loud.samplePeakDbfs()).isCloseTo(-10, within(0.01));
        assertThat(loud.averageDbfs()).isCloseTo(-10, within(0.01));
        // A stereo tone of 997 Hz reads its level per side: 10 log(10^-1.0 + 10^-1.6) - 0.691 + 0.691 - 3.01.
        assertThat(loud.integratedLufs())
                .isCloseTo(10 * Math.log10(Math.pow(10, -1) + Math.pow(10, -1.6)) - 3.01, within(0.05));
        assertThat(loud.correlation()).isCloseTo(1, within(1e-6));
        assertThat(loud.peakAtSeconds()).isBetween(6.0, 11.01);
        assertThat(loud.truePeakDbtp()).isNaN();
    }

    @Test
    void cut_out_of_the_song_or_measured_by_itself_it_is_the_same() throws Exception {
        Figures cut = watched(LOUD);
        Figures alone = Objects.requireNonNull(
                        SessionMeasurement.of(session, folder, LOUD, Detail.EVERYTHING, Progress.NONE)
                                .channels()
                                .get(TONE))
                .first();
        assertThat(cut.averageDbfs()).isCloseTo(alone.averageDbfs(), within(0.001));
        assertThat(cut.rmsDbfs()).isCloseTo(alone.rmsDbfs(), within(0.01));
        assertThat(cut.integratedLufs()).isCloseTo(alone.integratedLufs(), within(0.01));
        assertThat(cut.shortTermMaxLufs()).isCloseTo(alone.shortTermMaxLufs(), within(0.01));
        assertThat(cut.correlation()).isCloseTo(alone.correlation(), within(1e-6));
        // Alone the true peak is measured too.
        assertThat(alone.truePeakDbtp()).isCloseTo(-10, within(0.05));
        assertThat(alone.peakAtSeconds()).isBetween(6.0, 11.01);
    }

    @Test
    void a_section_behind_the_end_is_silent_in_the_watch_and_refused_alone() throws Exception {
        Section behind = new Section("Behind", 100 * RATE, 101 * RATE);
        assertThat(watched(behind).silent()).isTrue();
        assertThatIllegalArgumentException()
                .isThrownBy(() -> SessionMeasurement.of(session, folder, behind, Detail.EVERYTHING, Progress.NONE))
                .withMessageContaining("Behind");
    }

    @Test
    void sections_are_made_named_moved_and_removed() {
        Section verse = new Section("Verse", 4 * RATE, 8 * RATE);
        Session made = SectionEdits.add(LOUD).apply(SectionEdits.add(verse).apply(session));
        assertThat(made.sections()).containsExactly(verse, LOUD);
        Session moved = SectionEdits.bounds(verse, 12 * RATE, 13 * RATE).apply(made);
        assertThat(moved.sections()).extracting(Section::name).containsExactly("Loud", "Verse");
        Session named = SectionEdits.rename(LOUD, " Chorus ").apply(made);
        assertThat(named.sections()).extracting(Section::name).containsExactly("Verse", "Chorus");
        assertThat(SectionEdits.remove(verse).apply(made).sections()).containsExactly(LOUD);
    }
}
