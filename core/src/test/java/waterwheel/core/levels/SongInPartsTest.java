package waterwheel.core.levels;

import static org.assertj.core.api.Assertions.assertThat;
import static waterwheel.core.levels.MeasuredSongs.assertSame;
import static waterwheel.core.levels.MeasuredSongs.figures;
import static waterwheel.core.levels.MeasuredSongs.levels;

import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.metering.Detail;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.processing.Equaliser;
import waterwheel.core.processing.Limiter;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.Ride;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.work.Progress;

/**
 * A change that only delays hear is run in parts of the song, each by itself: the dry bus waits for the limiter of the
 * other, which need not run again.
 */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class SongInPartsTest {
    private static final int RATE = Sessions.RATE;
    private static final int FRAMES = 22 * RATE - 777;

    @TempDir
    Path folder;

    @RegisterExtension
    final MeasuredSongs songs = new MeasuredSongs();

    private Session session() throws Exception {
        Session plain = new Sessions(folder)
                .track("moved", "dry", Signals.noise(0.2, FRAMES, 1))
                .track("other", "dry", Signals.noise(0.2, FRAMES, 2), Signals.noise(0.1, FRAMES, 3))
                .track("limited", "wet", Signals.noise(0.3, FRAMES, 4))
                .track("last", "main", Signals.noise(0.3, FRAMES, 5))
                .bus("dry", "band")
                .bus("wet", "band")
                .bus("band", "main")
                .build();
        Insert limiter = Insert.of(new SlotId("i1"), Limiter.KIND);
        return plain.withStrip(Sessions.id("wet"), s -> s.withInserts(List.of(limiter)));
    }

    private SongMeasure open(Session session, int threads) {
        return songs.open(session, folder, Detail.LOUDNESS, Detail.LEVELS, threads);
    }

    private static Session faded(Session session, String track, double db) {
        return session.withStrip(Sessions.id(track), s -> s.withFaderDb(db));
    }

    /** The moved track's fader comes to so many dB in the twentieth second. */
    private static Session endingAt(Session session, double db) {
        CurvePoint from = new CurvePoint(15L * RATE, -3, CurvePoint.Shape.LINE);
        CurvePoint to = new CurvePoint(20L * RATE, db, CurvePoint.Shape.LINE);
        ControlId fader = ControlId.ofStrip(Sessions.id("moved"), Strip.FADER.key());
        return Controls.with(session, fader, Ride.of(new Curve(List.of(from, to))));
    }

    /** Sums of squares are added up in other pieces, and filters that begin in a part's lead-in end in other last bits. */
    private static void assertClose(Map<Integer, LevelSeries> some, Map<Integer, LevelSeries> others) {
        assertThat(some.keySet()).isEqualTo(others.keySet());
        some.forEach((signal, series) -> {
            LevelSeries other = Objects.requireNonNull(others.get(signal));
            for (int p = 0; p < series.planes(); p++) {
                assertThat(series.peakFrame(p)).as("peak of signal %d", signal).isEqualTo(other.peakFrame(p));
                double[] found = figures(series, p);
                double[] wanted = figures(other, p);
                assertThat(found).hasSameSizeAs(wanted);
                for (int i = 0; i < found.length; i++) {
                    // Not a number where none was asked for.
                    boolean same =
                            Double.isNaN(wanted[i]) ? Double.isNaN(found[i]) : Math.abs(found[i] - wanted[i]) < 1e-9;
                    assertThat(same)
                            .as("signal %d: %s for %s", signal, found[i], wanted[i])
                            .isTrue();
                }
            }
        });
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 2})
    void parts_come_to_what_one_run_comes_to_and_keep_what_it_keeps(int threads) throws Exception {
        Session session = session();
        SongMeasure song = open(session, threads);
        levels(song, session);
        Session moved = faded(session, "moved", -7);
        assertClose(levels(song, moved), levels(open(session, 2), moved));
        // Goes on from what the parts kept of the band, in which the dry bus is late.
        Session next = faded(moved, "last", -5);
        assertClose(levels(song, next), levels(open(session, 2), next));
    }

    @Test
    void what_parts_do_not_note_along_the_song_is_noted_when_there_is_time() throws Exception {
        Session session = endingAt(session(), -9);
        SongMeasure song = open(session, 2);
        levels(song, session);
        levels(song, endingAt(session, -6));
        assertThat(song.begunAt()).as("noted by the run that began it all").isPositive();

        Session moved = faded(session, "other", -7);
        levels(song, moved);
        levels(song, endingAt(moved, -6));
        assertThat(song.begunAt()).as("nothing was noted by parts").isZero();

        Session again = faded(session, "other", -8);
        levels(song, again);
        song.noteAlong(PlanCompiler.compile(again), Progress.NONE);
        Session late = endingAt(again, -6);
        Map<Integer, LevelSeries> levels = levels(song, late);
        assertThat(song.begunAt() / (double) RATE).isBetween(12.0, 13.0);
        assertSame(levels, levels(open(session, 2), late), "from what was noted");
    }

    /** The equaliser's bus is at hand, so that a change beside it computes gains and sums alone. */
    @Test
    void a_late_change_that_hears_of_no_memory_goes_on_from_what_meters_noted() throws Exception {
        Insert equaliser = Insert.of(new SlotId("i1"), Equaliser.KIND);
        Session session = endingAt(session().withStrip(Sessions.id("wet"), s -> s.withInserts(List.of(equaliser))), -9);
        SongMeasure song = open(session, 2);
        levels(song, session);

        Session late = endingAt(session, -6);
        Map<Integer, LevelSeries> levels = levels(song, late);

        assertThat(song.begunAt() / (double) RATE).isBetween(12.0, 13.0);
        assertSame(levels, levels(open(session, 2), late), "from what was noted");
    }
}
