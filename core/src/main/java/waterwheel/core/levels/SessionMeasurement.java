package waterwheel.core.levels;

import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
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
import waterwheel.core.sources.AudioSource;
import waterwheel.core.sources.SourceId;
import waterwheel.core.work.JointProgress;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/** Measures a session once, for scripts. */
public final class SessionMeasurement {
    private SessionMeasurement() {}

    /** Returns the levels of every channel and the facts of every readable file. */
    public static SessionLevels of(Session session, Path folder, Progress progress) {
        return open(session, folder, (song, media, team) -> levels(session, song, media, team, progress));
    }

    /**
     * Returns the levels of every channel over one section of the song.
     *
     * @throws IllegalArgumentException if the section begins after the song's end
     */
    public static SectionLevels of(Session session, Path folder, Section section, Progress progress) {
        long end = Math.min(section.endFrames(), session.lengthFrames());
        if (section.startFrames() >= end) {
            throw new IllegalArgumentException(
                    "section: '" + section.name() + "' (expected: one that begins before the song's end)");
        }
        return open(session, folder, (song, media, team) -> {
            Plan plan = PlanCompiler.compile(session);
            Map<Integer, LevelSeries> series =
                    song.measure(plan, StageLevels.wanted(plan), section.startFrames(), end, progress);
            return new SectionLevels(section, new StageLevels().of(session, plan, series));
        });
    }

    /** Answers another question that takes measuring. */
    public static <T> T of(Session session, Path folder, Function<SongMeasure, T> question) {
        return open(session, folder, (song, media, team) -> question.apply(song));
    }

    /** What is asked of a session whose files are open. */
    private interface Question<T> {
        T ask(SongMeasure song, Media media, Team team);
    }

    private static <T> T open(Session session, Path folder, Question<T> question) {
        try (Media media = Media.open(session, folder);
                Team team = Team.ofAllProcessors();
                SongMeasure song =
                        new SongMeasure(media, team, Detail.EVERYTHING, Detail.EVERYTHING, MeasureCache.none())) {
            return question.ask(song, media, team);
        }
    }

    private static Map<SourceId, FileFacts> facts(Session session, Media media, Team team, Progress progress) {
        List<AudioSource> sources = session.sources();
        JointProgress joint = new JointProgress(progress, Math.max(1, sources.size()));
        Map<SourceId, FileFacts> facts = new ConcurrentHashMap<>();
        team.run(sources.size(), i -> {
            SourceId id = sources.get(i).id();
            media.file(id).ifPresent(file -> facts.put(id, FileFacts.withoutTruePeak(file, joint.part(i))));
        });
        return facts;
    }

    private static SessionLevels levels(Session session, SongMeasure song, Media media, Team team, Progress progress) {
        Plan plan = PlanCompiler.compile(session);
        Map<Integer, LevelSeries> series = song.measure(plan, StageLevels.wanted(plan), progress.part(0, 0.8));
        Map<SourceId, FileFacts> facts = facts(session, media, team, progress.part(0.8, 1));
        return new SessionLevels(
                session,
                new StageLevels().of(session, plan, series),
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
