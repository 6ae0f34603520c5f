package waterwheel.core.levels;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.Comparator;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.DoubleRange;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import waterwheel.core.audiofile.ContentNotes;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.metering.Detail;
import waterwheel.core.metering.Figures;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.metering.SeriesFile;
import waterwheel.core.metering.SeriesMeter;
import waterwheel.core.processing.Compressor;
import waterwheel.core.processing.Delay;
import waterwheel.core.processing.Limiter;
import waterwheel.core.session.Session;
import waterwheel.core.sources.SourceId;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class MeasureCacheTest {
    @TempDir
    Path folder;

    private Session session;

    @BeforeEach
    void a_mono_and_a_stereo_track() throws Exception {
        session = new Sessions(folder)
                .track("mono", "main", Signals.noise(0.3, 100_003, 1))
                .track("stereo", "main", Signals.noise(0.3, 100_003, 2), Signals.noise(0.2, 100_003, 3))
                .build();
    }

    @Test
    void what_nothing_asked_for_goes_and_what_files_hold_stays_noted() throws Exception {
        MeasureCache cache = MeasureCache.in(folder);
        Path old = Files.writeString(folder.resolve("cache/0123.levels"), "of a file that was replaced");
        Path notes = Files.writeString(folder.resolve("cache").resolve(ContentNotes.FILE), "{}");
        cache.removeUnused();
        assertThat(old).doesNotExist();
        assertThat(notes).exists();
    }

    private SessionLevels opened() throws Exception {
        CompletableFuture<SessionLevels> done = new CompletableFuture<>();
        try (LevelWatch watch = new LevelWatch(
                folder,
                levels -> {
                    if (levels.complete()) {
                        done.complete(levels);
                    }
                },
                done::completeExceptionally)) {
            watch.submit(session);
            return done.get(30, TimeUnit.SECONDS);
        }
    }

    private List<Path> kept() throws IOException {
        try (Stream<Path> files = Files.list(folder.resolve(MeasureCache.FOLDER))) {
            return files.filter(Files::isRegularFile).sorted().toList();
        }
    }

    /** What a watch tells after each of some sessions, its last word; and after the first also its first word. */
    private List<SessionLevels> watched(List<Session> sessions) throws Exception {
        BlockingQueue<SessionLevels> told = new LinkedBlockingQueue<>();
        List<SessionLevels> words = new ArrayList<>();
        try (LevelWatch watch =
                new LevelWatch(folder, told::add, failure -> told.add(SessionLevels.pending(session)))) {
            for (Session one : sessions) {
                watch.submit(one);
                SessionLevels word = Objects.requireNonNull(told.poll(30, TimeUnit.SECONDS));
                if (words.isEmpty()) {
                    words.add(word);
                }
                while (!word.complete()) {
                    word = Objects.requireNonNull(told.poll(30, TimeUnit.SECONDS));
                }
                words.add(word);
            }
        }
        return words;
    }

    /** Two tracks through a compressor and a delay each, into a bus with a limiter. */
    private Session processed() throws Exception {
        Sessions built = new Sessions(folder).bus("band", "main");
        for (String id : List.of("one", "two")) {
            built.track(id, "band", Signals.noise(0.3, 300_007, id.hashCode()), Signals.noise(0.2, 300_007, 4));
        }
        Session made = built.build();
        for (String id : List.of("one", "two")) {
            made = made.withStrip(
                    Sessions.id(id),
                    strip -> strip.withInserts(List.of(
                            Insert.of(new SlotId("a"), Compressor.KIND), Insert.of(new SlotId("b"), Delay.KIND))));
        }
        return made.withStrip(Sessions.id("band"), strip -> strip.withFaderDb(3)
                .withInserts(List.of(Insert.of(new SlotId("c"), Limiter.KIND))));
    }

    @Test
    void the_first_word_of_the_next_opening_has_every_level() throws Exception {
        Session made = processed();
        SessionLevels first = watched(List.of(made)).getLast();
        SessionLevels again = watched(List.of(made)).getFirst();
        assertThat(again.channels()).hasSize(4).isEqualTo(first.channels());
        assertThat(again.channels().get(Sessions.id("band")))
                .isNotNull()
                .satisfies(levels -> assertThat(levels.stages()).hasSizeGreaterThan(3));
    }

    @Property(tries = 6)
    void a_change_after_the_next_opening_is_as_true_as_one_before(
            @ForAll @DoubleRange(min = -20, max = 10) double faderDb, @ForAll boolean ofBus) throws Exception {
        folder = Files.createTempDirectory("cached");
        Session made = processed();
        watched(List.of(made));
        Session moved = made.withStrip(Sessions.id(ofBus ? "band" : "one"), strip -> strip.withFaderDb(faderDb));
        SessionLevels warm = watched(List.of(made, moved)).getLast();
        deleted(folder.resolve(MeasureCache.FOLDER));
        assertThat(warm.channels()).isEqualTo(watched(List.of(moved)).getLast().channels());
        deleted(folder);
    }

    private static void deleted(Path folder) throws IOException {
        try (Stream<Path> all = Files.walk(folder)) {
            for (Path path : all.sorted(Comparator.reverseOrder()).toList()) {
                Files.delete(path);
            }
        }
    }

    @Test
    void a_script_measures_once_what_does_not_change() throws Exception {
        Session made = processed();
        AtomicInteger first = new AtomicInteger();
        SessionLevels measured = SessionMeasurement.of(made, folder, counting(first));
        assertThat(first).hasPositiveValue();
        AtomicInteger again = new AtomicInteger();
        SessionLevels known = SessionMeasurement.of(made, folder, counting(again));
        assertThat(again).as("nothing was measured").hasValue(0);
        assertThat(known.channels()).isEqualTo(measured.channels());
        assertThat(known.main()).isEqualTo(measured.main());
        assertThat(known.files().keySet()).isEqualTo(measured.files().keySet());
    }

    @ParameterizedTest
    @CsvSource({"EVERYTHING, LOUDNESS, true", "LOUDNESS, LOUDNESS, true", "LOUDNESS, EVERYTHING, false"})
    void more_than_is_wanted_is_enough_and_less_is_not(Detail before, Detail wanted, boolean known) throws Exception {
        Session made = processed();
        SessionLevels measured = SessionMeasurement.of(made, folder, before, Progress.NONE);
        AtomicInteger told = new AtomicInteger();
        SessionLevels levels = SessionMeasurement.of(made, folder, wanted, counting(told));
        assertThat(told.get() == 0).as("nothing was measured").isEqualTo(known);
        Figures mix = levels.main().orElseThrow();
        assertThat(mix.integratedLufs()).isEqualTo(measured.main().orElseThrow().integratedLufs());
        assertThat(Double.isNaN(mix.truePeakDbtp())).isEqualTo(before == wanted && wanted == Detail.LOUDNESS);
    }

    @Test
    void the_window_knows_what_a_script_measured() throws Exception {
        Session made = processed();
        SessionLevels measured = SessionMeasurement.of(made, folder, Detail.LOUDNESS, Progress.NONE);
        SessionLevels first = watched(List.of(made)).getFirst();
        assertThat(first.channels()).isEqualTo(measured.channels());
    }

    @Test
    void a_folder_that_cannot_be_written_is_measured_all_the_same() throws Exception {
        Session made = processed();
        SessionLevels measured = SessionMeasurement.of(made, folder, Progress.NONE);
        deleted(folder.resolve(MeasureCache.FOLDER));
        // A file where the folder would be: no folder can be made there, not even by an administrator.
        Files.writeString(folder.resolve(MeasureCache.FOLDER), "in the way");
        assertThat(SessionMeasurement.of(made, folder, Progress.NONE).channels())
                .isEqualTo(measured.channels());
    }

    /** A progress that counts how often work looked at it: work that is done before it is told of looks at least once. */
    private static Progress counting(AtomicInteger told) {
        return new Progress() {
            @Override
            public void at(double part) {
                told.incrementAndGet();
            }

            @Override
            public boolean stopped() {
                told.incrementAndGet();
                return false;
            }
        };
    }

    @Test
    void what_comes_from_the_cache_is_what_was_measured() throws Exception {
        SessionLevels first = opened();
        assertThat(kept()).as("levels and facts of two files").hasSize(4);
        SessionLevels again = opened();
        assertThat(again.channels()).isEqualTo(first.channels());
        assertThat(again.files().get(new SourceId("stereo")))
                .usingRecursiveComparison()
                .isEqualTo(first.files().get(new SourceId("stereo")));
    }

    @Test
    void a_file_that_changed_is_measured_anew_and_its_old_measurement_goes() throws Exception {
        opened();
        List<Path> before = kept();
        a_mono_and_a_stereo_track();
        Signals.wav(folder.resolve("mono.wav"), 48_000, SampleEncoding.FLOAT_32, Signals.noise(0.1, 100_003, 9));
        double peak = opened().of(Sessions.id("mono")).orElseThrow().first().samplePeakDbfs();
        assertThat(peak).isLessThan(-19.9);
        assertThat(kept()).hasSize(4).isNotEqualTo(before);
    }

    @Test
    void damaged_entries_are_as_good_as_none() throws Exception {
        SessionLevels first = opened();
        for (Path file : kept()) {
            byte[] bytes = Files.readAllBytes(file);
            Files.write(file, Arrays.copyOf(bytes, bytes.length / 2));
        }
        assertThat(opened().channels()).isEqualTo(first.channels());
    }

    @Test
    void a_mapped_series_gives_every_figure_that_the_measured_one_gave() throws Exception {
        float[][] signal = {Signals.noise(0.3, 90_001, 5), Signals.noise(0.1, 90_001, 6)};
        SeriesMeter meter = new SeriesMeter(44_100, 2, 90_001, Detail.EVERYTHING);
        meter.process(signal, 0, 90_001);
        LevelSeries measured = meter.finish();
        SeriesFile.write(measured, folder.resolve("series"));
        LevelSeries mapped = SeriesFile.read(folder.resolve("series"));
        assertThat(mapped).isNotNull();
        if (mapped != null) {
            assertThat(Figures.of(mapped)).isEqualTo(Figures.of(measured));
            assertThat(mapped.heapBytes()).isZero();
            assertThat(Figures.of(mapped.during(10_000, 60_000)))
                    .isEqualTo(Figures.of(measured.during(10_000, 60_000)));
        }
        assertThat(SeriesFile.read(folder.resolve("nothing"))).isNull();
    }

    /** Runs a measurement that was asked for by itself; returns its peak, and how often its progress was told. */
    private double asked(Session what, AtomicInteger told) throws Exception {
        try (Media media = Media.open(what, folder);
                Team team = new Team(2);
                SongMeasure song =
                        new SongMeasure(media, team, Detail.LOUDNESS, Detail.LEVELS, MeasureCache.in(folder))) {
            Plan plan = PlanCompiler.compile(what);
            BitSet mix = new BitSet();
            mix.set(plan.output());
            LevelSeries series =
                    song.measureAsked(plan, mix, 10_000, 90_000, counting(told)).get(plan.output());
            return Figures.of(Objects.requireNonNull(series)).samplePeakDbfs();
        }
    }

    @Test
    void what_was_asked_for_by_itself_is_known_the_next_time_and_outlives_an_opening() throws Exception {
        // What is measured is kept, so that the files there tell whether something was; progress may be told or not
        // where the work is short.
        double peak = asked(session, new AtomicInteger());
        Set<Path> first = keptOfAsked();
        assertThat(first).isNotEmpty();
        opened();
        AtomicInteger again = new AtomicInteger();
        assertThat(asked(session, again)).isEqualTo(peak);
        assertThat(again).as("nothing was measured").hasValue(0);
        assertThat(keptOfAsked()).containsAll(first);
        int before = keptOfAsked().size();
        Session softer = session.withStrip(Sessions.MAIN, s -> s.withFaderDb(-6));
        assertThat(asked(softer, again)).isCloseTo(peak - 6, within(1e-6));
        assertThat(keptOfAsked()).as("another mix is measured").hasSizeGreaterThan(before);
    }

    private Set<Path> keptOfAsked() throws Exception {
        try (Stream<Path> files = Files.list(folder.resolve(MeasureCache.FOLDER).resolve("asked"))) {
            return files.collect(Collectors.toSet());
        }
    }
}
