package waterwheel.core.songs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static waterwheel.core.testing.Songs.lufs;
import static waterwheel.core.testing.Songs.measured;
import static waterwheel.core.testing.Songs.tone;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.DoubleRange;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.inserts.Processor;
import waterwheel.core.order.Correction;
import waterwheel.core.order.RunningOrder;
import waterwheel.core.order.Song;
import waterwheel.core.order.SongId;
import waterwheel.core.order.Target;
import waterwheel.core.processing.Equaliser;
import waterwheel.core.testing.Signals;
import waterwheel.core.testing.Songs;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class EqualTest {
    @TempDir
    @SuppressWarnings("NullAway.Init")
    Path folder;

    private RunningOrder band() throws Exception {
        return new Songs(folder)
                .song("Reel")
                .stem("Drums", Signals.noise(0.3, 192_000, 1), Signals.noise(0.3, 192_000, 2))
                .stem("Bass", tone(-3))
                .stem("Click", tone(-10))
                .song("Jig")
                .stem("Drums", Signals.noise(0.02, 192_000, 3))
                .stem("Bass", tone(-40))
                .stem("Hush", new float[192_000])
                .order();
    }

    @Test
    void every_part_comes_to_its_target_and_cues_stay() throws Exception {
        RunningOrder order = band().withTarget(Target.USUAL.withLufs(-24));
        List<Equal> proposals = Equal.of(measured(order, Songs.place(folder)), List.of());
        assertThat(proposals)
                .noneMatch(one -> one.part().equals("Click") || one.part().equals("Hush"));
        OrderLevels after = measured(Equal.applied(order, proposals), Songs.place(folder));
        for (String song : List.of("s1", "s2")) {
            assertThat(lufs(after, song, "Drums")).isCloseTo(-24, within(0.02));
            assertThat(lufs(after, song, "Bass")).isCloseTo(-24, within(0.02));
        }
        assertThat(lufs(after, "s1", "Click")).isCloseTo(-10, within(0.05));
        assertThat(Equal.of(after, List.of())).as("what is there stays").isEmpty();
    }

    @Test
    void a_part_may_be_brought_there_alone() throws Exception {
        RunningOrder order = band().withTarget(Target.USUAL.withLufs(-24));
        assertThat(Equal.of(measured(order, Songs.place(folder)), List.of("Bass")))
                .extracting(Equal::part)
                .containsOnly("Bass");
    }

    @Test
    void the_guard_holds_what_its_peak_does_not_allow() throws Exception {
        // A click a second: far from loud, and peaks at -6 dBFS.
        float[] spikes = new float[192_000];
        for (int i = 0; i < spikes.length; i += 48_000) {
            spikes[i] = 0.5f;
            spikes[i + 1] = -0.5f;
        }
        RunningOrder order = new Songs(folder)
                .song("Reel")
                .stem("Drums", spikes)
                .order()
                .withTarget(Target.USUAL.withLufs(-10).withGuardDbtp(-1));
        OrderLevels before = measured(order, Songs.place(folder));
        double peak = peakDbtp(before);
        Equal held = Equal.of(before, List.of()).getFirst();
        assertThat(held.heldByGuard()).isTrue();
        assertThat(held.gainDb()).isCloseTo(-1 - peak, within(0.011));
        OrderLevels after = measured(Equal.applied(order, List.of(held)), Songs.place(folder));
        assertThat(peakDbtp(after)).isBetween(-1.02, -1.0);
        assertThat(Equal.of(after, List.of())).isEmpty();
    }

    private static double peakDbtp(OrderLevels levels) {
        return levels.cell(levels.rows().getFirst(), "Drums", "")
                .orElseThrow()
                .level()
                .truePeakDbtp();
    }

    @Test
    void the_sum_comes_to_its_target_with_its_balance() throws Exception {
        RunningOrder order =
                band().withTarget(Target.USUAL.withGoal(Target.Goal.SUM).withLufs(-23));
        List<Equal> proposals = Equal.of(measured(order, Songs.place(folder)), List.of());
        RunningOrder equal = Equal.applied(order, proposals);
        OrderLevels after = measured(equal, Songs.place(folder));
        for (Song song : equal.songs()) {
            assertThat(lufs(after, song.id().value(), "")).isCloseTo(-23, within(0.02));
            assertThat(song.correction("Drums").gainDb())
                    .isCloseTo(song.correction("Bass").gainDb(), within(0.011));
            assertThat(song.correction("Click")).isEqualTo(Correction.NONE);
        }
    }

    @Test
    void an_equaliser_stays_and_its_effect_is_taken_into_account() throws Exception {
        Processor bell = Processor.usual(Equaliser.KIND).with("bell1Hz", 997).with("bell1Db", 6);
        RunningOrder order = band().withTarget(Target.USUAL.withLufs(-24))
                .withSong(new SongId("s2"), song -> song.with("Bass", new Correction(0, Optional.of(bell))));
        RunningOrder equal = Equal.applied(order, Equal.of(measured(order, Songs.place(folder)), List.of("Bass")));
        Correction corrected = equal.song(new SongId("s2")).correction("Bass");
        assertThat(corrected.equaliser()).hasValue(bell);
        // -40 LUFS, 6 dB of them back by the bell.
        assertThat(corrected.gainDb()).isCloseTo(10, within(0.06));
    }

    @Test
    void songs_and_parts_that_are_gone_are_passed_by() throws Exception {
        RunningOrder order = band();
        Equal gone = new Equal(new SongId("s9"), "Drums", 3, 3, -20, false);
        assertThat(Equal.applied(order, List.of(gone))).isEqualTo(order);
    }

    /** No file is needed to see that no proposal ever breaks the guard or goes past the target. */
    @Property(tries = 500)
    void no_proposal_goes_past_target_or_guard(
            @ForAll @DoubleRange(min = -69, max = 0) double measuredLufs,
            @ForAll @DoubleRange(min = -60, max = 12) double peak,
            @ForAll @DoubleRange(min = -40, max = 0) double guard,
            @ForAll @DoubleRange(min = -70, max = 0) double target,
            @ForAll @DoubleRange(min = -48, max = 48) double before) {
        RunningOrder order = RunningOrder.empty("Evening")
                .withSong("reel", "Reel")
                .withTarget(Target.USUAL.withLufs(target).withGuardDbtp(guard))
                .withSong(new SongId("s1"), song -> song.with("Bass", new Correction(before, Optional.empty())));
        PartLevels bass = new PartLevels("Bass", false, List.of(), new Level(measuredLufs, 1, peak, peak), List.of());
        SongLevels levels = new SongLevels("x", 60, 48_000, List.of(), List.of(bass), bass, List.of());
        OrderLevels known =
                new OrderLevels(order, List.of(new SongRow(order.songs().getFirst(), levels, "")));
        for (Equal one : Equal.of(known, List.of())) {
            boolean atEnd = Math.abs(one.gainDb()) == Correction.LIMIT_DB;
            assertThat(one.gainDb()).isBetween(-48.0, 48.0);
            assertThat(one.reachesLufs()).isCloseTo(measuredLufs + one.changeDb(), within(1e-9));
            if (!atEnd) {
                assertThat(measuredLufs + one.changeDb()).isLessThanOrEqualTo(target + 1e-6);
                assertThat(peak + one.changeDb()).isLessThanOrEqualTo(guard + 1e-6);
                double nearest = Math.min(target - measuredLufs, guard - peak);
                assertThat(one.changeDb()).isCloseTo(nearest, within(0.0101));
            }
        }
    }
}
