package waterwheel.core.levels;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.junit.jupiter.api.extension.AfterEachCallback;
import org.junit.jupiter.api.extension.ExtensionContext;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.metering.Detail;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.session.Session;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/** Measurements of a test's sessions, closed after it, and how one's results are held against another's. */
final class MeasuredSongs implements AfterEachCallback {
    private static final long PLENTY = 1 << 28;

    private final List<AutoCloseable> toClose = new ArrayList<>();

    /** One that remembers all that it can. */
    SongMeasure open(Session session, Path folder, Detail most, Detail least, int threads) {
        return open(session, folder, most, least, MeasureCache.none(), PLENTY, threads);
    }

    SongMeasure open(
            Session session, Path folder, Detail most, Detail least, MeasureCache cache, long noteBytes, int threads) {
        Media media = Media.open(session, folder);
        Team team = new Team(threads);
        SongMeasure song = new SongMeasure(media, team, most, least, cache, PLENTY, noteBytes);
        toClose.addAll(List.of(media, team, song));
        return song;
    }

    @Override
    public void afterEach(ExtensionContext context) throws Exception {
        for (AutoCloseable one : toClose.reversed()) {
            one.close();
        }
    }

    /** The levels of all that channels show, after which the next change is one of this session. */
    static Map<Integer, LevelSeries> levels(SongMeasure song, Session session) {
        Plan plan = PlanCompiler.compile(session);
        BitSet all = StageLevels.wanted(plan);
        Map<Integer, LevelSeries> levels = song.measure(plan, all, Progress.NONE);
        song.standAt(plan);
        return levels;
    }

    /** To the last bit. */
    static void assertSame(Map<Integer, LevelSeries> some, Map<Integer, LevelSeries> others, String what) {
        assertThat(some.keySet()).isEqualTo(others.keySet());
        some.forEach((signal, series) -> {
            LevelSeries other = Objects.requireNonNull(others.get(signal));
            // Not a number where none was asked for.
            assertThat(series.truePeak()).as("true peak, %s", what).isEqualTo(Double.valueOf(other.truePeak()));
            for (int p = 0; p < series.planes(); p++) {
                int plane = p;
                assertThat(series.peakFrame(p)).as("peak's place, %s", what).isEqualTo(other.peakFrame(p));
                assertThat(Arrays.mismatch(figures(series, plane), figures(other, plane)))
                        .as("signal %d, plane %d, %s", signal, p, what)
                        .isEqualTo(-1);
            }
            if (series.planes() == 2) {
                assertThat(series.crossEnergy()).isEqualTo(other.crossEnergy());
            }
        });
    }

    /** Peak, energy and weighted energy of each step in turn. */
    static double[] figures(LevelSeries series, int plane) {
        double[] all = new double[3 * series.steps()];
        for (int step = 0; step < series.steps(); step++) {
            all[3 * step] = series.peak(plane, step);
            all[3 * step + 1] = series.energy(plane, step, 1);
            all[3 * step + 2] = series.weightedEnergy(plane, step, 1);
        }
        return all;
    }
}
