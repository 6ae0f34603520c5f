package waterwheel.core.levels;

import java.nio.file.Path;
import java.util.HashMap;
import java.util.Map;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.engine.Team;
import waterwheel.core.filefacts.FileFacts;
import waterwheel.core.metering.Detail;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.session.AudioSource;
import waterwheel.core.session.Session;
import waterwheel.core.session.SourceId;
import waterwheel.core.work.Progress;

/** Measures a whole session once, for scripts. */
public final class SessionMeasurement {
    private SessionMeasurement() {}

    /** Returns the levels of every channel and the facts of every readable file. */
    public static SessionLevels of(Session session, Path folder, Progress progress) {
        try (Media media = Media.open(session, folder);
                Team team = Team.ofAllProcessors();
                SongMeasure song = new SongMeasure(media, team, Detail.EVERYTHING, Detail.EVERYTHING)) {
            Plan plan = PlanCompiler.compile(session);
            Map<Integer, LevelSeries> series = song.measure(plan, StageLevels.wanted(plan), progress.part(0, 0.8));
            Map<SourceId, FileFacts> facts = new HashMap<>();
            for (AudioSource source : session.sources()) {
                media.file(source.id()).ifPresent(file -> facts.put(source.id(), FileFacts.of(file, Progress.NONE)));
                progress.check();
            }
            progress.at(1);
            return new SessionLevels(
                    session, new StageLevels().of(session, plan, series), series.get(plan.output()), facts, true);
        }
    }
}
