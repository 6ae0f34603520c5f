package waterwheel.bench;

import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import org.jspecify.annotations.Nullable;
import waterwheel.core.engine.LiveLoops;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.engine.PlanRun;
import waterwheel.core.json.Json;
import waterwheel.core.load.LateBlocks;
import waterwheel.core.load.LoadMeter;
import waterwheel.core.session.Session;
import waterwheel.core.work.Team;

/** What measuring the load costs: the full mix in small blocks on one thread, with and without, turn by turn. */
final class LoadBench {
    private static final int BLOCK = 128;
    private static final int TURNS = 9;

    private LoadBench() {}

    static String run(int tracks, int seconds, Path folder) throws Exception {
        Session session = FullMixBench.session(tracks, seconds, folder);
        Plan plan = PlanCompiler.forPlayback(session, LiveLoops.NONE);
        List<Double> without = new ArrayList<>();
        List<Double> with = new ArrayList<>();
        try (Media media = Media.open(session, folder);
                Team alone = new Team(1)) {
            PlanRun plain = PlanRun.ofAll(plan, media, alone, BLOCK);
            PlanRun clocked = PlanRun.ofAll(plan, media, alone, BLOCK);
            clocked.clocked();
            LoadMeter meter = LoadMeter.live(plan, BLOCK, new LateBlocks());
            for (int turn = 0; turn < TURNS; turn++) {
                without.add(seconds(plan, plain, null));
                with.add(seconds(plan, clocked, meter));
            }
        }
        // The first turn is warming up.
        double plain = median(without.subList(1, TURNS));
        double clocked = median(with.subList(1, TURNS));
        ObjectNode node = Json.object();
        node.put("bench", "load of " + tracks + " stereo tracks of a full mix in blocks of " + BLOCK);
        node.put("signals", plan.signals().size());
        node.set("secondsWithout", Json.figure(plain, 3));
        node.set("secondsWith", Json.figure(clocked, 3));
        node.set("percentOfBlock", Json.figure(100 * (clocked - plain) / seconds, 3));
        node.set("percentOfWork", Json.figure(100 * (clocked - plain) / plain, 2));
        return Json.compact(node);
    }

    private static double seconds(Plan plan, PlanRun run, @Nullable LoadMeter meter) {
        long start = System.nanoTime();
        for (long at = 0; at + BLOCK <= plan.lengthFrames(); at += BLOCK) {
            long begun = System.nanoTime();
            if (meter != null) {
                run.due(begun + meter.nanos(BLOCK));
            }
            run.process(at, BLOCK);
            if (meter != null) {
                meter.take(run, System.nanoTime() - begun, BLOCK, at);
            }
        }
        return (System.nanoTime() - start) * 1e-9;
    }

    private static double median(List<Double> values) {
        List<Double> sorted = new ArrayList<>(values);
        Collections.sort(sorted);
        return sorted.get(sorted.size() / 2);
    }
}
