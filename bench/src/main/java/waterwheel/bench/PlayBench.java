package waterwheel.bench;

import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.file.Path;
import java.util.Arrays;
import waterwheel.core.demo.DemoSession;
import waterwheel.core.engine.LiveLoops;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.engine.PlanRun;
import waterwheel.core.json.Json;
import waterwheel.core.rack.Device;
import waterwheel.core.session.Session;
import waterwheel.core.store.SessionFolder;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/** How long the blocks of playback take to compute, against how long they last. */
final class PlayBench {
    private static final int WARM_UPS = 1;

    private PlayBench() {}

    static String run(Path folder) throws Exception {
        DemoSession.writeIfMissing(folder, Progress.NONE);
        Session session = SessionFolder.load(folder).session();
        Plan plan = PlanCompiler.forPlayback(session, LiveLoops.NONE);
        double[] millis = {};
        try (Media media = Media.open(session, folder);
                Team team = new Team(1)) {
            for (int round = 0; round <= WARM_UPS; round++) {
                PlanRun run = PlanRun.ofAll(plan, media, team, Device.USUAL_BLOCK_FRAMES);
                run.ready();
                int blocks = (int) (plan.lengthFrames() / Device.USUAL_BLOCK_FRAMES);
                millis = new double[blocks];
                for (int b = 0; b < blocks; b++) {
                    long start = System.nanoTime();
                    run.process((long) b * Device.USUAL_BLOCK_FRAMES, Device.USUAL_BLOCK_FRAMES);
                    millis[b] = (System.nanoTime() - start) * 1e-6;
                }
            }
        }
        // As a listener has it: the first second, until memory and files are there, is not counted.
        millis = Arrays.copyOfRange(millis, session.sampleRateHz() / Device.USUAL_BLOCK_FRAMES, millis.length);
        Arrays.sort(millis);
        ObjectNode node = Json.object();
        node.put("bench", "blocks of playback, demo session, one thread");
        node.put("blockFrames", Device.USUAL_BLOCK_FRAMES);
        node.set("lastsMilliseconds", Json.figure(1_000.0 * Device.USUAL_BLOCK_FRAMES / session.sampleRateHz(), 2));
        node.set("medianMilliseconds", Json.figure(millis[millis.length / 2], 3));
        node.set("percentile999Milliseconds", Json.figure(millis[(int) (0.999 * millis.length)], 3));
        node.set("slowestMilliseconds", Json.figure(millis[millis.length - 1], 3));
        return Json.compact(node);
    }
}
