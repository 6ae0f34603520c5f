package waterwheel.core.levels;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.IntFunction;
import waterwheel.core.engine.KeptSignal;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanRun;
import waterwheel.core.metering.Detail;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.metering.SeriesMeter;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/** A stretch of the song that one thread measures: a run of the plan with meters on the wanted signals. */
final class SongPart {
    static final int BLOCK = 2_048;

    private static final int SHORTEST_SECONDS = 5;
    /** A multiple of so many parts are made, which that many threads share evenly. */
    private static final int TOGETHER = 4;
    /** A part of a long song lasts about so long: a second of settling is little beside it. */
    private static final int USUAL_SECONDS = 30;

    private final Plan plan;
    private final long from;
    private final long to;
    private final int settling;
    private final long start;
    private int late;
    private final Map<Integer, SeriesMeter> meters = new HashMap<>();
    private final Map<Integer, LevelSeries> measured = new HashMap<>();

    private SongPart(Plan plan, long from, long to, long start) {
        this.plan = plan;
        this.from = from;
        this.to = to;
        this.start = start;
        settling = settling(plan, from);
    }

    private static int settling(Plan plan, long from) {
        return (int) Math.min(from, plan.sampleRateHz());
    }

    /** The whole of a stretch as one part, run from the song's beginning because processors remember it. */
    static List<SongPart> whole(Plan plan, long fromFrame, long toFrame) {
        return List.of(new SongPart(plan, fromFrame, toFrame, 0));
    }

    /**
     * The whole song as one part that is run from some frame on, before which all is known.
     *
     * @param start as a run counts
     */
    static SongPart goingOn(Plan plan, long start) {
        return new SongPart(plan, 0, plan.lengthFrames(), start);
    }

    /**
     * Divides a stretch of the song into parts that begin at whole seconds of it. Where they begin depends on the stretch
     * alone and not on who works: filters that begin anew there end in the same bits on every machine.
     *
     * @param backFrames how far back delays remember: each part is run from so much earlier on
     */
    static List<SongPart> divide(Plan plan, long fromFrame, long toFrame, long backFrames) {
        long seconds = (toFrame - fromFrame) / plan.sampleRateHz();
        long usual = TOGETHER * Math.max(1, Math.round((double) seconds / (TOGETHER * USUAL_SECONDS)));
        int count = (int) Math.max(1, Math.min(usual, seconds / SHORTEST_SECONDS));
        List<SongPart> parts = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            long from = fromFrame + seconds * i / count * plan.sampleRateHz();
            long to = i + 1 == count ? toFrame : fromFrame + seconds * (i + 1) / count * plan.sampleRateHz();
            parts.add(new SongPart(plan, from, to, Math.max(0, from - settling(plan, from) - backFrames)));
        }
        return parts;
    }

    /**
     * Makes the run, its meters, and what keeps samples.
     *
     * @param wanted what is computed
     * @param metered what is measured of it
     */
    PlanRun prepare(
            Media media,
            Team team,
            BitSet wanted,
            BitSet metered,
            Map<Integer, KeptSignal> keeping,
            IntFunction<Detail> detail) {
        BitSet heard = (BitSet) wanted.clone();
        keeping.keySet().forEach(heard::set);
        PlanRun made = PlanRun.ofStretch(plan, media, team, BLOCK, heard);
        wanted.stream().forEach(i -> late = Math.max(late, plan.latencies().get(i)));
        metered.stream().forEach(i -> {
            SeriesMeter meter = SeriesMeter.ofPart(
                    plan.sampleRateHz(), plan.signals().get(i).planes(), to - from, detail.apply(i), settling);
            meters.put(i, meter);
            made.meter(i, meter, from - settling, to);
        });
        // The last part keeps what comes late too.
        long keptTo = to == plan.lengthFrames() ? Long.MAX_VALUE : to;
        keeping.forEach((i, samples) -> made.keep(i, samples, from, keptTo));
        return made;
    }

    void run(PlanRun run, Progress progress) {
        run.stretch(start, to + late, progress);
        meters.forEach((i, meter) -> measured.put(i, meter.finish()));
    }

    /** The meters of a run that was prepared, by index. */
    Map<Integer, SeriesMeter> meters() {
        return meters;
    }

    /** The measurement of a wanted signal over this part, after the run. */
    LevelSeries series(int index) {
        LevelSeries series = measured.get(index);
        if (series == null) {
            throw new IllegalArgumentException("index: " + index + " (expected: a wanted signal, after the run)");
        }
        return series;
    }
}
