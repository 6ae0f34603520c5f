package waterwheel.core.levels;

import java.nio.file.Path;
import java.util.Map;
import java.util.function.Function;
import waterwheel.core.captures.Captures;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.filefacts.FileFacts;
import waterwheel.core.freezing.Freezes;
import waterwheel.core.metering.Detail;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.session.Section;
import waterwheel.core.session.Session;
import waterwheel.core.sources.SourceId;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/** Measures a session once, for scripts; what is measured of the whole song is known the next time. */
public final class SessionMeasurement {
    private SessionMeasurement() {}

    /** Returns all that is measured of every channel, and the facts of every readable file. */
    public static SessionLevels of(Session session, Path folder, Progress progress) {
        return of(session, folder, Detail.EVERYTHING, progress);
    }

    /**
     * Returns the levels of every channel and the facts of every readable file.
     *
     * @param detail what is measured of every stage; other figures may be there or be NaN
     */
    public static SessionLevels of(Session session, Path folder, Detail detail, Progress progress) {
        return of(session, folder, all(detail), progress);
    }

    /** Returns what the window shows of a session, as {@link SongMeasure#asShown} gathers it. */
    public static SessionLevels asShown(Session session, Path folder, Progress progress) {
        return of(session, folder, SongMeasure::asShown, progress);
    }

    private static SessionLevels of(Session session, Path folder, Start start, Progress progress) {
        return open(session, folder, start, (song, media, team, cache) -> {
            Plan plan = PlanCompiler.compile(session);
            Map<Integer, LevelSeries> series = song.measure(plan, StageLevels.wanted(plan), progress.part(0, 0.8));
            song.keepMeasured(plan, () -> false);
            FileScans files = new FileScans(cache, team);
            files.scan(session, media, progress.part(0.8, 1), () -> {});
            return levels(session, plan, series, media, team, files.facts(session, media));
        });
    }

    /**
     * Returns the levels of every channel over one section of the song.
     *
     * @param detail what is measured of every stage; other figures may be there or be NaN
     * @throws IllegalArgumentException if the section begins after the song's end
     */
    public static SectionLevels of(Session session, Path folder, Section section, Detail detail, Progress progress) {
        long end = Math.min(section.endFrames(), session.lengthFrames());
        if (section.startFrames() >= end) {
            throw new IllegalArgumentException(
                    "section: '" + section.name() + "' (expected: one that begins before the song's end)");
        }
        return open(session, folder, all(detail), (song, media, team, cache) -> {
            Plan plan = PlanCompiler.compile(session);
            Map<Integer, LevelSeries> series =
                    song.measure(plan, StageLevels.wanted(plan), section.startFrames(), end, progress);
            return new SectionLevels(section, new StageLevels(team).of(session, plan, series));
        });
    }

    /** Answers another question that takes measuring. */
    public static <T> T of(Session session, Path folder, Function<SongMeasure, T> question) {
        return open(session, folder, all(Detail.EVERYTHING), (song, media, team, cache) -> question.apply(song));
    }

    /** What is asked of a session whose files are open. */
    private interface Question<T> {
        T ask(SongMeasure song, Media media, Team team, MeasureCache cache);
    }

    /** Makes a measurement that knows nothing yet. */
    private interface Start {
        SongMeasure of(Media media, Team team, MeasureCache cache);
    }

    private static Start all(Detail detail) {
        return (media, team, cache) -> new SongMeasure(media, team, detail, detail, cache);
    }

    private static <T> T open(Session session, Path folder, Start start, Question<T> question) {
        MeasureCache cache = MeasureCache.in(folder);
        try (Media media = Media.open(session, folder);
                Team team = Team.ofAllProcessors();
                SongMeasure song = start.of(media, team, cache)) {
            return question.ask(song, media, team, cache);
        }
    }

    private static SessionLevels levels(
            Session session,
            Plan plan,
            Map<Integer, LevelSeries> series,
            Media media,
            Team team,
            Map<SourceId, FileFacts> facts) {
        return new SessionLevels(
                session,
                new StageLevels(team).of(session, plan, series),
                null,
                series.get(plan.output()),
                StageLevels.pairs(plan, series),
                facts,
                media.sentences(),
                media.changed(),
                Captures.of(session, plan, media),
                Freezes.of(session, media),
                true);
    }
}
