package waterwheel.core.songs;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.engine.Signal;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.errors.WaterwheelException;
import waterwheel.core.levels.MeasureCache;
import waterwheel.core.levels.SongMeasure;
import waterwheel.core.metering.Detail;
import waterwheel.core.metering.Figures;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.order.RunningOrder;
import waterwheel.core.path.Stage;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Section;
import waterwheel.core.session.Session;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/** Measures a song: every part and their sum, over the whole and by section. */
final class SongMeasurement {
    private SongMeasurement() {}

    /**
     * Measures a song whose stems are there.
     *
     * @throws WaterwheelException if none of its files can be read
     * @throws java.util.concurrent.CancellationException if the progress says stop
     */
    static SongLevels of(SongReader.Look look, RunningOrder order, OrderPlace place, Team team, Progress progress)
            throws WaterwheelException {
        SongFiles files = look.files()
                .orElseThrow(() -> new IllegalArgumentException("look: no files (expected: a song that is ready)"));
        SongSession song = SongSession.of(
                look.song(),
                files,
                look.sections(),
                order,
                place,
                part -> true,
                SongSession.Cues.ASIDE,
                progress.part(0, 0.1));
        Session session = song.session();
        Path folder = place.folder();
        try (Media media = Media.open(session, folder);
                SongMeasure measure =
                        new SongMeasure(media, team, Detail.EVERYTHING, Detail.EVERYTHING, MeasureCache.none())) {
            List<String> notes = new ArrayList<>(song.notes());
            notes.addAll(song.refused());
            if (look.session().isPresent()) {
                notes.addAll(SongParts.notes(place.parts(look.song().id())));
            }
            media.problems().values().stream()
                    .map(AudioFileException::getMessage)
                    .forEach(notes::add);
            Plan plan = PlanCompiler.compile(session);
            BitSet wanted = new BitSet();
            for (SongSession.PartBus one : song.parts()) {
                wanted.set(output(plan, one.bus()).edge().from());
            }
            wanted.set(plan.output());
            // Nothing is measured again here, so no samples are kept for that.
            Map<Integer, LevelSeries> series =
                    measure.measure(plan, wanted, 0, plan.lengthFrames(), progress.part(0.1, 1));
            List<PartLevels> parts = new ArrayList<>();
            for (SongSession.PartBus one : song.parts()) {
                Signal.Edge edge = output(plan, one.bus()).edge();
                LevelSeries heard =
                        measured(series, edge.from()).through(edge.gain().toArray());
                parts.add(levels(one.part().name(), one.part().cue(), one.stems(), heard, session));
            }
            return new SongLevels(
                    look.stamp(),
                    (double) session.lengthFrames() / session.sampleRateHz(),
                    session.sampleRateHz(),
                    session.sections().stream().map(Section::name).toList(),
                    parts,
                    levels("", false, List.of(), measured(series, plan.output()), session),
                    notes);
        }
    }

    private static LevelSeries measured(Map<Integer, LevelSeries> series, int signal) {
        return Objects.requireNonNull(series.get(signal), "a measured signal");
    }

    private static Plan.Place output(Plan plan, ChannelId channel) {
        return plan.stage(channel, Stage.OUTPUT, "")
                .orElseThrow(() -> new IllegalStateException("channel: " + channel + " (expected: one of the plan)"));
    }

    private static PartLevels levels(
            String name, boolean cue, List<String> stems, LevelSeries series, Session session) {
        return new PartLevels(
                name,
                cue,
                stems,
                Level.of(Figures.of(series)),
                session.sections().stream()
                        .map(one -> Level.within(Figures.of(series.during(one.startFrames(), one.endFrames()))))
                        .toList());
    }
}
