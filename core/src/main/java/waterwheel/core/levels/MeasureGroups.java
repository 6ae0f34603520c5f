package waterwheel.core.levels;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.BiFunction;
import waterwheel.core.engine.Plan;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.metering.Steps;
import waterwheel.core.work.Progress;

/** Signals in groups that are measured one after the other: of a song of hours there is not memory for all at once. */
record MeasureGroups(List<BitSet> groups) {
    /** What a step of 10 ms of one plane takes while it is measured: in parts, and then in one. */
    private static final int BYTES_A_STEP = 48;

    /**
     * Puts signals into groups.
     *
     * @param most how many there are in a group
     * @param mostBytes what measuring a group may take; a signal that takes more is a group of its own
     */
    static MeasureGroups of(Plan plan, BitSet signals, int most, long mostBytes) {
        List<BitSet> groups = new ArrayList<>();
        long steps = Steps.count(plan.lengthFrames(), plan.sampleRateHz());
        long bytes = 0;
        for (int i = signals.nextSetBit(0); i >= 0; i = signals.nextSetBit(i + 1)) {
            long wanted = steps * plan.signals().get(i).planes() * BYTES_A_STEP;
            if (groups.isEmpty() || groups.getLast().cardinality() >= most || bytes + wanted > mostBytes) {
                groups.add(new BitSet());
                bytes = 0;
            }
            groups.getLast().set(i);
            bytes += wanted;
        }
        return new MeasureGroups(groups);
    }

    /** Measures group by group; returns the series by index in the plan. */
    Map<Integer, LevelSeries> run(
            Progress progress, BiFunction<BitSet, Progress, Map<Integer, LevelSeries>> measuring) {
        Map<Integer, LevelSeries> fresh = new HashMap<>();
        for (int i = 0; i < groups.size(); i++) {
            Progress part = progress.part((double) i / groups.size(), (i + 1.0) / groups.size());
            fresh.putAll(measuring.apply(groups.get(i), part));
        }
        return fresh;
    }
}
