package waterwheel.core.levels;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import java.util.BitSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.metering.Detail;
import waterwheel.core.metering.Figures;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.metering.Loudness;
import waterwheel.core.path.Stage;
import waterwheel.core.processing.Compressor;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.Ride;
import waterwheel.core.rides.Rides;
import waterwheel.core.session.Clip;
import waterwheel.core.session.Placement;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class SessionLevelsTest {
    @TempDir
    Path folder;

    private Session session;

    @BeforeEach
    void two_tones_into_one_bus() throws Exception {
        session = new Sessions(folder)
                .track("low", "bus", Signals.sine(400, -20, 48_000, 12))
                .track("wide", "bus", Signals.sine(1_000, -12, 48_000, 12), Signals.sine(1_500, -15, 48_000, 12))
                .bus("bus", "main")
                .build();
    }

    private SessionLevels measured(Session of) {
        return SessionMeasurement.of(of, folder, Progress.NONE);
    }

    @Test
    void every_stage_reads_what_its_gains_make_of_a_sine() {
        Session set = session.withStrip(Sessions.id("low"), s -> s.withTrimDb(4).withFaderDb(-6));
        ChannelLevels low = measured(set).of(Sessions.id("low")).orElseThrow();
        assertThat(low.stages().stream().map(StageLevel::stage))
                .containsExactly(Stage.SOURCE, Stage.CLIPS, Stage.TRIM, Stage.FADER, Stage.PLACEMENT, Stage.OUTPUT);
        assertThat(low.at(Stage.SOURCE).averageDbfs()).isCloseTo(-20, within(0.01));
        assertThat(low.at(Stage.TRIM).averageDbfs()).isCloseTo(-16, within(0.01));
        assertThat(low.at(Stage.FADER).samplePeakDbfs()).isCloseTo(-22, within(0.01));
        assertThat(low.at(Stage.PLACEMENT).samplePeakDbfs()).isCloseTo(-25.01, within(0.01));
        assertThat(low.at(Stage.OUTPUT)).isEqualTo(low.at(Stage.PLACEMENT));
    }

    @Test
    void a_muted_channel_keeps_its_inner_levels_and_gives_out_nothing() {
        ChannelLevels low = measured(session.withStrip(Sessions.id("low"), s -> s.withMuted(true)))
                .of(Sessions.id("low"))
                .orElseThrow();
        assertThat(low.at(Stage.FADER).averageDbfs()).isCloseTo(-20, within(0.01));
        assertThat(low.at(Stage.OUTPUT).silent()).isTrue();
    }

    @Test
    void a_placement_that_mixes_the_sides_is_measured() {
        Session narrow =
                session.withStrip(Sessions.id("wide"), s -> s.withPlacement(new Placement(0, 0, Placement.Mode.PLACE)));
        Figures placed = measured(narrow).of(Sessions.id("wide")).orElseThrow().at(Stage.PLACEMENT);
        // Two unrelated sines at -12 and -15 dBFS, each -3.01 dB, in one place: powers add.
        double expected = 10 * Math.log10(Math.pow(10, -1.2) + Math.pow(10, -1.5)) - 3.0103;
        assertThat(placed.averageDbfs()).isCloseTo(expected, within(0.02));
    }

    @Test
    void measuring_after_changes_gives_what_measuring_afresh_gives() {
        Plan before = PlanCompiler.compile(session);
        Session moved = session.withStrip(Sessions.id("low"), s -> s.withFaderDb(-3.3))
                .withStrip(Sessions.id("bus"), s -> s.withTrimDb(1.7));
        Plan after = PlanCompiler.compile(moved);
        BitSet all = StageLevels.wanted(before);
        try (Media media = Media.open(session, folder);
                Team team = new Team(2);
                SongMeasure warm = measure(media, team);
                SongMeasure cold = measure(media, team)) {
            warm.measure(before, all, Progress.NONE);
            Figures changed = Figures.of(Objects.requireNonNull(
                    warm.measure(after, all, Progress.NONE).get(after.output())));
            Figures fresh = Figures.of(Objects.requireNonNull(
                    cold.measure(after, all, Progress.NONE).get(after.output())));
            assertThat(changed).isEqualTo(fresh);
        }
    }

    /** Loud once and nearly silent from then on: what filters still hold of it is what parts may differ in. */
    @ParameterizedTest
    @ValueSource(ints = {2, 3, 5, 8})
    void figures_do_not_depend_on_how_many_threads_measure(int threads) throws Exception {
        float[] fading = Signals.noise(0.5, 48_000 * 47 + 321, 9);
        for (int i = 48_000; i < fading.length; i++) {
            fading[i] *= 1e-4f;
        }
        Session faded = new Sessions(folder)
                .track("fading", "main", fading)
                .track("other", "main", Signals.noise(0.1, 48_000 * 41, 10))
                .build();
        Map<Integer, LevelSeries> alone = measuredBy(1, faded);
        Map<Integer, LevelSeries> shared = measuredBy(threads, faded);
        alone.forEach((signal, series) -> {
            LevelSeries other = Objects.requireNonNull(shared.get(signal));
            for (int plane = 0; plane < series.planes(); plane++) {
                for (int step = 0; step < series.steps(); step++) {
                    assertThat(other.weightedEnergy(plane, step, 1))
                            .as("step %d of signal %d", step, signal)
                            .isEqualTo(series.weightedEnergy(plane, step, 1));
                }
            }
            assertThat(Figures.of(other)).isEqualTo(Figures.of(series));
        });
    }

    private static SongMeasure measure(Media media, Team team) {
        return new SongMeasure(media, team, Detail.EVERYTHING, Detail.EVERYTHING, MeasureCache.none());
    }

    private Map<Integer, LevelSeries> measuredBy(int threads, Session measured) {
        Plan plan = PlanCompiler.compile(measured);
        try (Media media = Media.open(measured, folder);
                Team team = new Team(threads);
                SongMeasure song = measure(media, team)) {
            return song.measure(plan, StageLevels.wanted(plan), Progress.NONE);
        }
    }

    @Test
    void a_changed_name_measures_nothing_and_a_moved_fader_only_what_lies_below() {
        try (Media media = Media.open(session, folder);
                Team team = new Team(1);
                SongMeasure song = new SongMeasure(media, team, Detail.LOUDNESS, Detail.LEVELS, MeasureCache.none())) {
            Plan plan = PlanCompiler.compile(session);
            BitSet all = StageLevels.wanted(plan);
            song.measure(plan, all, Progress.NONE);
            Session renamed = session.withChannel(Sessions.id("low"), c -> c.withName("Lower"));
            assertThat(song.known(PlanCompiler.compile(renamed), all)).hasSize(all.cardinality());
            Plan moved = PlanCompiler.compile(session.withStrip(Sessions.id("low"), s -> s.withFaderDb(-1)));
            assertThat(song.known(moved, all).keySet())
                    .contains(moved.first(Sessions.id("low")), moved.first(Sessions.id("wide")))
                    .doesNotContain(moved.first(Sessions.id("bus")), moved.output());
        }
    }

    @Test
    void samples_of_what_was_not_asked_for_are_kept_as_they_are_behind_its_last_processor() {
        Session ridden = session.withStrip(
                Sessions.id("low"), s -> s.withInserts(List.of(Insert.of(new SlotId("i1"), Compressor.KIND)))
                        .withRides(Rides.NONE.with(
                                "faderDb",
                                Ride.of(new Curve(List.of(
                                        new CurvePoint(0, -20, CurvePoint.Shape.LINE),
                                        new CurvePoint(48_000, 0, CurvePoint.Shape.LINE)))))));
        Session moved = ridden.withStrip(Sessions.id("wide"), s -> s.withFaderDb(-3));
        try (Media media = Media.open(session, folder);
                Team team = new Team(2);
                SongMeasure song = measure(media, team);
                SongMeasure other = measure(media, team)) {
            // Only the main bus is asked for: first with the fader elsewhere, then from what was kept of that.
            song.at(ridden, Sessions.MAIN, Stage.INPUT, Progress.NONE);
            LevelSeries kept = song.at(moved, Sessions.MAIN, Stage.INPUT, Progress.NONE);
            LevelSeries anew = other.at(moved, Sessions.MAIN, Stage.INPUT, Progress.NONE);
            for (int step = 0; step < anew.steps(); step++) {
                for (int p = 0; p < anew.planes(); p++) {
                    assertThat(kept.peak(p, step)).as("step %d", step).isEqualTo(anew.peak(p, step));
                }
            }
            // Where all is kept the song is measured in parts, whose loudness filters settle before they begin.
            assertThat(Figures.of(kept).integratedLufs())
                    .isCloseTo(Figures.of(anew).integratedLufs(), within(1e-6));
        }
    }

    @Test
    void a_song_that_becomes_longer_measures_only_what_reaches_its_old_end() throws Exception {
        Session three = new Sessions(folder)
                .track("short", "main", Signals.noise(0.2, 48_000 * 4 + 123, 1))
                .track("pair", "bus", Signals.noise(0.2, 48_000 * 5 + 77, 2), Signals.noise(0.2, 48_000 * 5 + 77, 3))
                .track("long", "main", Signals.noise(0.1, 48_000 * 8 + 5, 4))
                .bus("bus", "main")
                .build();
        Session cut = three.withChannel(Sessions.id("long"), c -> {
            Track track = (Track) c;
            Clip clip = track.clips().getFirst();
            return track.withClips(List.of(new Clip(clip.source(), 0, 0, 48_000 * 7 - 11, 0)));
        });
        Plan longer = PlanCompiler.compile(three);
        Plan shorter = PlanCompiler.compile(cut);
        BitSet all = StageLevels.wanted(longer);
        try (Media media = Media.open(three, folder);
                Team team = new Team(2);
                SongMeasure warm = measure(media, team);
                SongMeasure cold = measure(media, team)) {
            warm.measure(shorter, all, Progress.NONE);
            assertThat(warm.known(longer, all).keySet())
                    .contains(
                            longer.first(Sessions.id("short")),
                            longer.first(Sessions.id("pair")),
                            longer.first(Sessions.id("bus")))
                    .doesNotContain(longer.first(Sessions.id("long")), longer.output());
            for (Plan plan : List.of(longer, shorter)) {
                Map<Integer, LevelSeries> kept = warm.measure(plan, all, Progress.NONE);
                Map<Integer, LevelSeries> fresh = cold.measure(plan, all, Progress.NONE);
                fresh.forEach((i, series) -> assertThat(Figures.of(Objects.requireNonNull(kept.get(i))))
                        .as("%s", plan.signals().get(i).id())
                        .isEqualTo(Figures.of(series)));
            }
        }
    }

    @Test
    void the_watch_publishes_complete_levels_of_the_newest_session() throws Exception {
        BlockingQueue<SessionLevels> published = new LinkedBlockingQueue<>();
        List<RuntimeException> failures = new CopyOnWriteArrayList<>();
        try (LevelWatch watch = new LevelWatch(folder, published::add, failures::add)) {
            Session last = session;
            for (int i = 1; i <= 20; i++) {
                double db = -i;
                last = session.withStrip(Sessions.id("low"), s -> s.withFaderDb(db));
                watch.submit(last);
            }
            SessionLevels levels;
            do {
                levels = published.poll(20, TimeUnit.SECONDS);
                assertThat(levels).as("levels within 20 s").isNotNull();
            } while (!levels.complete() || !levels.session().equals(last));
            assertThat(levels.of(Sessions.id("low"))
                            .orElseThrow()
                            .at(Stage.FADER)
                            .averageDbfs())
                    .isCloseTo(-40, within(0.01));
        }
        assertThat(failures).isEmpty();
    }

    @Test
    void a_stem_that_is_all_of_a_bus_has_its_loudness_though_the_buses_have_none() throws Exception {
        Session second = new Sessions(folder)
                .track("low", "bus", Signals.sine(400, -20, 48_000, 12))
                .track("other", "bus", Signals.sine(500, -20, 48_000, 12))
                .track("wide", "main", Signals.sine(1_000, -12, 48_000, 12))
                .bus("bus", "main")
                .build()
                .withStrip(Sessions.id("wide"), s -> s.withMuted(true));
        try (Media media = Media.open(second, folder);
                Team team = Team.ofAllProcessors();
                SongMeasure song = new SongMeasure(media, team, Detail.LOUDNESS, Detail.LEVELS, MeasureCache.none())) {
            assertThat(song.mix(second, Progress.NONE).integratedLufs()).isFinite();
        }
    }

    @Test
    void a_bus_has_its_loudness_where_that_is_asked_for_though_channels_do_not_show_it() {
        try (Media media = Media.open(session, folder);
                Team team = Team.ofAllProcessors();
                SongMeasure song = new SongMeasure(media, team, Detail.LOUDNESS, Detail.LEVELS, MeasureCache.none())) {
            Plan plan = PlanCompiler.compile(session);
            LevelSeries shown =
                    song.measure(plan, StageLevels.wanted(plan), Progress.NONE).get(plan.first(Sessions.id("bus")));
            assertThat(Loudness.integratedLufs(Objects.requireNonNull(shown))).isNaN();
            LevelSeries asked = song.at(session, Sessions.id("bus"), Stage.FADER, Progress.NONE);
            LevelSeries whole = SessionMeasurement.of(
                    session, folder, all -> all.at(session, Sessions.id("bus"), Stage.FADER, Progress.NONE));
            assertThat(Loudness.integratedLufs(asked))
                    .isFinite()
                    .isCloseTo(Loudness.integratedLufs(whole), within(1e-6));
        }
    }

    @Test
    void a_bus_whose_compressor_listens_to_a_key_has_its_loudness_on_both_sides_of_it() {
        SlotId slot = new SlotId("1");
        Session keyed = session.withStrip(
                        Sessions.id("bus"), s -> s.withInserts(List.of(Insert.of(slot, Compressor.KIND))))
                .withStrip(Sessions.id("low"), s -> s.withSends(List.of(Send.toKey(Sessions.id("bus"), slot))));
        try (Media media = Media.open(keyed, folder);
                Team team = Team.ofAllProcessors();
                SongMeasure song = new SongMeasure(media, team, Detail.LOUDNESS, Detail.LEVELS, MeasureCache.none())) {
            Plan plan = PlanCompiler.compile(keyed);
            ChannelLevels bus = Objects.requireNonNull(new StageLevels(team)
                    .of(keyed, plan, song.measure(plan, StageLevels.wanted(plan), Progress.NONE))
                    .get(Sessions.id("bus")));
            var around = bus.around(slot).orElseThrow();
            assertThat(around.before().integratedLufs()).isFinite();
            assertThat(around.after().integratedLufs())
                    .isLessThan(around.before().integratedLufs());
        }
    }
}
