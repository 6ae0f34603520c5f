package waterwheel.core.levels;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.DoubleRange;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.Size;
import net.jqwik.api.lifecycle.AfterTry;
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
import waterwheel.core.units.Decibels;
import waterwheel.core.work.Leftovers;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class PeakSharesTest {
    private static final ChannelId DRUMS = Sessions.id("drums");

    @TempDir
    Path folder;

    /** Of a property's try, which gets no such folder. */
    @AfterTry
    void remove_it() throws Exception {
        Leftovers.deleteTree(folder);
    }

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
                        session, folder, song -> song.peakShares(session, DRUMS, 0, Progress.NONE))
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
            PeakShares quick = kept.peakShares(session, DRUMS, 0, Progress.NONE).orElseThrow();
            kept.forgetSamples();
            PeakShares again = kept.peakShares(session, DRUMS, 0, Progress.NONE).orElseThrow();
            assertThat(quick).isEqualTo(again);
            double sum =
                    quick.shares().stream().mapToDouble(PeakShares.Share::value).sum();
            assertThat(sum).isCloseTo(quick.peak(), within(1e-6));
        }
    }

    @Test
    void the_next_peaks_are_told_too_each_apart_from_those_before() throws Exception {
        float[] one = new float[48_000 * 6];
        one[48_000] = 0.9f;
        one[48_000 + 4_800] = 0.8f;
        one[48_000 * 3] = -0.7f;
        one[48_000 * 5] = 0.6f;
        Session session = new Sessions(folder)
                .track("kick", "drums", one, one)
                .bus("drums", "main")
                .build();
        List<Double> peaks = SessionMeasurement.of(session, folder, song -> IntStream.range(0, 4)
                .mapToObj(rank -> song.peakShares(session, DRUMS, rank, Progress.NONE))
                .flatMap(Optional::stream)
                .map(PeakShares::peak)
                .toList());
        assertThat(peaks).as("0.8 is a tenth of a second from 0.9").hasSize(3);
        assertThat(peaks.get(0)).isCloseTo(0.9, within(1e-6));
        assertThat(peaks.get(1)).isCloseTo(-0.7, within(1e-6));
        assertThat(peaks.get(2)).isCloseTo(0.6, within(1e-6));
    }

    /** Two levels of buses with gains alone: each track's part is its sample with all gains on its way, over the peak. */
    @Property(tries = 15)
    void parts_of_tracks_are_what_the_peak_would_lack_without_them(
            @ForAll @Size(4) List<@DoubleRange(min = -12, max = 6) Double> fadersDb,
            @ForAll @IntRange(max = 999) int seed)
            throws Exception {
        folder = Files.createTempDirectory("peaks");
        Sessions built =
                new Sessions(folder).bus("drums", "band").bus("strings", "band").bus("band", "main");
        float[][] noise = new float[4][];
        for (int i = 0; i < 4; i++) {
            noise[i] = Signals.noise(0.4, 20_000, seed * 4 + i);
            built.track("t" + i, i < 2 ? "drums" : "strings", noise[i], noise[i]);
        }
        Session session = built.build();
        for (int i = 0; i < 4; i++) {
            double db = fadersDb.get(i);
            session = session.withStrip(Sessions.id("t" + i), s -> s.withFaderDb(db));
        }
        Session made = session.withStrip(Sessions.id("drums"), s -> s.withFaderDb(-3));
        PeakShares found = SessionMeasurement.of(
                        made, folder, song -> song.peakShares(made, Sessions.id("main"), 0, Progress.NONE))
                .orElseThrow();
        int frame = (int) Math.round(found.atSeconds() * 48_000);
        for (int i = 0; i < 4; i++) {
            ChannelId track = Sessions.id("t" + i);
            double sample = noise[i][frame] * Decibels.toFactor(fadersDb.get(i) + (i < 2 ? -3 : 0));
            assertThat(found.links())
                    .filteredOn(link -> link.from().equals(track))
                    .singleElement()
                    .satisfies(link -> assertThat(link.part()).isCloseTo(sample / found.peak(), within(1e-4)));
        }
        assertThat(found.links())
                .filteredOn(link -> link.to().equals(Sessions.id("main")))
                .hasSize(1);
        assertThat(found.links()).as("four tracks, two buses, and the band").hasSize(7);
    }

    /** A bus that goes on by two ways: each way has its part, and what feeds the bus the sum of them. */
    @Test
    void what_comes_by_two_ways_is_one_link_with_both_parts() throws Exception {
        float[] click = new float[1_000];
        click[400] = 0.25f;
        Session session = new Sessions(folder)
                .track("kick", "drums", click, click)
                .track("flute", "main", click, click)
                .bus("drums", "main")
                .bus("parallel", "main")
                .build()
                .withStrip(Sessions.id("drums"), s -> s.withExtraOutputs(List.of(Sessions.id("parallel"))));
        PeakShares found = SessionMeasurement.of(
                        session, folder, song -> song.peakShares(session, Sessions.id("main"), 0, Progress.NONE))
                .orElseThrow();
        // 0.25 by the flute, 0.25 by the drums, and again by the bus beside them.
        assertThat(found.peak()).isCloseTo(0.75, within(1e-6));
        assertThat(found.links())
                .extracting(link -> link.from() + " to " + link.to() + " " + Math.round(300 * link.part()))
                .containsExactlyInAnyOrder(
                        "flute to main 100",
                        "drums to main 100",
                        "parallel to main 100",
                        "drums to parallel 100",
                        "kick to drums 200");
    }
}
