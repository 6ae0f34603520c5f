package waterwheel.core.levels;

import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import waterwheel.core.engine.KeptSignal;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanRun;
import waterwheel.core.engine.Signal;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.work.JointProgress;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/** A run of a plan that measures, as one part or as several. */
final class SongRun {
    private final Media media;
    private final Team team;
    private final KeyedPlan keyed;
    private final Plan plan;
    private final BitSet wanted;
    private final BitSet measured;
    private final BitSet computed;
    /** How far back it remembers. */
    private final long memoryFrames;

    /**
     * Prepares a run.
     *
     * @param plan with samples in hand in place of what need not be computed
     * @param wanted what is computed
     * @param measured what is measured of it
     */
    SongRun(Media media, Team team, KeyedPlan keyed, Plan plan, BitSet wanted, BitSet measured) {
        this.media = media;
        this.team = team;
        this.keyed = keyed;
        this.plan = plan;
        this.wanted = wanted;
        this.measured = measured;
        computed = computed(plan, wanted);
        memoryFrames = plan.memoryFrames(computed);
    }

    private static BitSet computed(Plan plan, BitSet wanted) {
        BitSet computed = plan.reaching(wanted);
        for (int i = 0; i < plan.signals().size(); i++) {
            if (plan.signals().get(i) instanceof Signal.Kept) {
                computed.clear(i);
            }
        }
        return computed;
    }

    /** What is computed, with what is wanted for that, without what is in hand. */
    BitSet computed() {
        return computed;
    }

    /** Whether threads can each run parts of the song by itself: what delays remember lies shortly before a part. */
    boolean divides() {
        return memoryFrames <= plan.sampleRateHz();
    }

    /**
     * Runs the song from the last frame on before which all is known.
     *
     * @param keeping where samples are kept, by index
     */
    Map<Integer, LevelSeries> from(
            Milestones.Start start, Milestones milestones, Map<Integer, KeptSignal> keeping, Progress progress) {
        SongPart part = SongPart.goingOn(plan, start.frame());
        PlanRun run = part.prepare(media, team, wanted, measured, keeping, keyed::detail);
        milestones.goOn(start, run, part.meters());
        part.run(run, progress);
        milestones.note(keyed, start, run, computed, part.meters());
        return series(List.of(part));
    }

    /**
     * Runs a stretch of the song. Threads measure parts of it each by itself where nothing remembers what came long before;
     * processors do, and then the threads share the signals instead.
     *
     * @param keeping where samples are kept, by index
     */
    Map<Integer, LevelSeries> over(long from, long to, Map<Integer, KeptSignal> keeping, Progress progress) {
        List<SongPart> parts =
                divides() ? SongPart.divide(plan, from, to, memoryFrames) : SongPart.whole(plan, from, to);
        Team each = parts.size() == 1 ? team : Team.alone();
        JointProgress joint = new JointProgress(progress, parts.size());
        team.run(parts.size(), i -> {
            PlanRun run = parts.get(i).prepare(media, each, wanted, measured, keeping, keyed::detail);
            parts.get(i).run(run, joint.part(i));
        });
        return series(parts);
    }

    private Map<Integer, LevelSeries> series(List<SongPart> parts) {
        Map<Integer, LevelSeries> series = new HashMap<>();
        measured.stream()
                .forEach(i -> series.put(
                        i,
                        LevelSeries.joined(
                                parts.stream().map(part -> part.series(i)).toList())));
        return series;
    }
}
