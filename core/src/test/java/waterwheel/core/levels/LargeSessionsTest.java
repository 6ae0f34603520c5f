package waterwheel.core.levels;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static org.junit.jupiter.api.Assertions.assertTimeoutPreemptively;

import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.IntStream;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.findings.Findings;
import waterwheel.core.metering.Detail;
import waterwheel.core.metering.Figures;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Clip;
import waterwheel.core.session.Feed;
import waterwheel.core.session.Output;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Tap;
import waterwheel.core.session.Track;
import waterwheel.core.session.Vca;
import waterwheel.core.testing.Renders;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/** Sessions whose size or depth would find whatever walks every way: they are measured and judged, and end. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class LargeSessionsTest {
    private static final int FRAMES = 4_800;
    /** No measure of speed: what does not grow linearly takes hours here. */
    private static final Duration PATIENCE = Duration.ofSeconds(60);

    @TempDir
    Path folder;

    private Session one() throws Exception {
        return new Sessions(folder)
                .track("one", "main", Signals.noise(0.5, FRAMES, 1), Signals.noise(0.5, FRAMES, 2))
                .build();
    }

    private double mainPeak(Session session) {
        return assertTimeoutPreemptively(PATIENCE, () -> {
            SessionLevels levels = SessionMeasurement.of(session, folder, Progress.NONE);
            Findings.of(levels);
            assertThat(levels.channels()).hasSameSizeAs(session.channels());
            return levels.main().orElseThrow().samplePeakDbfs();
        });
    }

    private static Session with(Session session, List<? extends Channel> more) {
        List<Channel> channels = new ArrayList<>(session.channels());
        channels.addAll(more);
        return session.withChannels(channels);
    }

    @Test
    void buses_nested_hundreds_deep() throws Exception {
        Session flat = one();
        List<Bus> buses = IntStream.range(0, 600)
                .mapToObj(i -> new Bus(
                        Sessions.id("b" + i),
                        "b" + i,
                        Strip.unity(Output.to(i == 599 ? Sessions.MAIN : Sessions.id("b" + (i + 1))))))
                .toList();
        Session deep = with(flat, buses).withStrip(Sessions.id("one"), s -> s.withOutput(Output.to(Sessions.id("b0"))));
        assertThat(mainPeak(deep)).isEqualTo(mainPeak(flat));
    }

    @Test
    void taps_of_taps_of_taps() throws Exception {
        Session session = one();
        List<Track> taps = IntStream.range(0, 2_000)
                .mapToObj(i -> new Track(
                                Sessions.id("t" + i),
                                "t" + i,
                                Track.Kind.SUSTAINED,
                                2,
                                List.of(),
                                Strip.unity(new Output.Nowhere()))
                        .withFeed(new Feed.Tapped(new Tap(
                                i == 0 ? Sessions.id("one") : Sessions.id("t" + (i - 1)), Tap.Point.PRE_FADER))))
                .toList();
        Session chained =
                with(session, taps).withStrip(Sessions.id("t1999"), s -> s.withOutput(Output.to(Sessions.MAIN)));
        // The last in the chain is the first again: twice as much.
        assertThat(mainPeak(chained)).isCloseTo(mainPeak(session) + 6.0206, within(1e-3));
    }

    @Test
    void vcas_in_a_grid_and_in_a_chain() throws Exception {
        Session session = one();
        List<Vca> vcas = new ArrayList<>();
        List<ChannelId> below = List.of(Sessions.id("one"));
        for (int level = 0; level < 40; level++) {
            List<ChannelId> here = new ArrayList<>();
            for (int i = 0; i < 2; i++) {
                ChannelId id = Sessions.id("v" + level + "-" + i);
                vcas.add(new Vca(id, "v", -0.1, false, below, List.of()));
                here.add(id);
            }
            below = here;
        }
        assertThat(mainPeak(session.withVcas(vcas))).isCloseTo(mainPeak(session) - 8, within(1e-6));
        List<Vca> chain = new ArrayList<>();
        for (int i = 0; i < 3_000; i++) {
            ChannelId member = i == 0 ? Sessions.id("one") : Sessions.id("c" + (i - 1));
            chain.add(new Vca(Sessions.id("c" + i), "c", i < 10 ? -1 : 0, false, List.of(member), List.of()));
        }
        assertThat(mainPeak(session.withVcas(chain))).isCloseTo(mainPeak(session) - 10, within(1e-6));
    }

    @Test
    void clips_by_the_ten_thousand_sound_where_they_are() throws Exception {
        Session session = one();
        Clip whole = ((Track) session.channel(Sessions.id("one"))).clips().getFirst();
        List<Clip> pieces = new ArrayList<>();
        for (int i = 0; i < 20_000; i++) {
            // Shuffled, and each frame of the file once.
            int frame = (int) (i * 7_919L % FRAMES);
            pieces.add(new Clip(whole.source(), frame + (long) FRAMES * (i / FRAMES), frame, 1, 0));
        }
        Session cut = session.withChannel(Sessions.id("one"), c -> ((Track) c).withClips(pieces));
        float[][] mix = assertTimeoutPreemptively(PATIENCE, () -> new Renders(folder).mix(cut));
        float[][] expected = new Renders(folder).mix(session);
        for (int i = 0; i < 4 * FRAMES; i++) {
            assertThat(mix[0][i]).as("frame %d", i).isEqualTo(expected[0][i % FRAMES]);
        }
    }

    /** However little may be remembered, what was asked for is handed over. */
    @ParameterizedTest
    @ValueSource(longs = {0, 1, 2_000, 1_000_000})
    void every_series_that_is_measured_arrives_in_however_little_memory(long mostHeapBytes) throws Exception {
        Sessions made = new Sessions(folder);
        for (int i = 0; i < 12; i++) {
            made.track("t" + i, "b" + i % 3, Signals.noise(0.1 + 0.05 * i, FRAMES, i));
        }
        Session session =
                made.bus("b0", "main").bus("b1", "main").bus("b2", "main").build();
        Plan plan = PlanCompiler.compile(session);
        BitSet wanted = StageLevels.wanted(plan);
        try (Media media = Media.open(session, folder);
                Team team = new Team(2);
                SongMeasure roomy =
                        new SongMeasure(media, team, Detail.EVERYTHING, Detail.EVERYTHING, MeasureCache.none());
                SongMeasure tight = new SongMeasure(
                        media,
                        team,
                        Detail.EVERYTHING,
                        Detail.EVERYTHING,
                        MeasureCache.none(),
                        mostHeapBytes,
                        1 << 20)) {
            Map<Integer, LevelSeries> expected = roomy.measure(plan, wanted, Progress.NONE);
            Map<Integer, LevelSeries> found = tight.measure(plan, wanted, Progress.NONE);
            assertThat(found.keySet()).isEqualTo(expected.keySet()).hasSize(wanted.cardinality());
            found.forEach((i, series) -> assertThat(Figures.of(series))
                    .as("signal %d", i)
                    .isEqualTo(Figures.of(Objects.requireNonNull(expected.get(i)))));
        }
    }
}
