package waterwheel.core.levels;

import java.nio.file.Path;
import java.util.HashMap;
import java.util.Map;
import java.util.function.BiFunction;
import java.util.function.Function;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.engine.Team;
import waterwheel.core.filefacts.FileFacts;
import waterwheel.core.metering.Detail;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.session.Section;
import waterwheel.core.session.Session;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.sources.SourceId;
import waterwheel.core.work.Progress;

/** Measures a session once, for scripts. */
public final class SessionMeasurement {
    private SessionMeasurement() {}

    /** Returns the levels of every channel and the facts of every readable file. */
    public static SessionLevels of(Session session, Path folder, Progress progress) {
        return open(session, folder, (song, media) -> levels(session, song, media, progress));
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
        return open(session, folder, (song, media) -> {
            Plan plan = PlanCompiler.compile(session);
            Map<Integer, LevelSeries> series =
                    song.measure(plan, StageLevels.wanted(plan), section.startFrames(), end, progress);
            return new SectionLevels(section, new StageLevels().of(session, plan, series));
        });
    }

    /** Answers another question that takes measuring. */
    public static <T> T of(Session session, Path folder, Function<SongMeasure, T> question) {
        return open(session, folder, (song, media) -> question.apply(song));
    }

    private static <T> T open(Session session, Path folder, BiFunction<SongMeasure, Media, T> question) {
        try (Media media = Media.open(session, folder);
                Team team = Team.ofAllProcessors();
                SongMeasure song =
                        new SongMeasure(media, team, Detail.EVERYTHING, Detail.EVERYTHING, MeasureCache.none())) {
            return question.apply(song, media);
        }
    }

    private static SessionLevels levels(Session session, SongMeasure song, Media media, Progress progress) {
        Plan plan = PlanCompiler.compile(session);
        Map<Integer, LevelSeries> series = song.measure(plan, StageLevels.wanted(plan), progress.part(0, 0.8));
        Map<SourceId, FileFacts> facts = new HashMap<>();
        for (AudioSource source : session.sources()) {
            media.file(source.id()).ifPresent(file -> facts.put(source.id(), FileFacts.of(file, Progress.NONE)));
            progress.check();
        }
        progress.at(1);
        return new SessionLevels(
                session,
                new StageLevels().of(session, plan, series),
                null,
                series.get(plan.output()),
                StageLevels.pairs(plan, series),
                facts,
                true);
    }
}
