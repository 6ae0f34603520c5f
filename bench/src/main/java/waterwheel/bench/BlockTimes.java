package waterwheel.bench;

import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Set;
import waterwheel.core.engine.LiveLoops;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.engine.PlanRun;
import waterwheel.core.json.Json;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.work.Team;

/** How long the blocks of playback take to compute on one thread, against how long they last. */
final class BlockTimes {
    private static final int WARM_UPS = 1;

    private BlockTimes() {}

    /** @param frozen the channels whose frozen sound is played */
    static ObjectNode of(Session session, Path folder, Set<ChannelId> frozen, int blockFrames) {
        Plan plan = PlanCompiler.forPlayback(session, LiveLoops.NONE, frozen);
        double[] millis = {};
        try (Media media = Media.open(session, folder);
                Team team = new Team(1)) {
            for (int round = 0; round <= WARM_UPS; round++) {
                PlanRun run = PlanRun.ofAll(plan, media, team, blockFrames);
                run.ready();
                int blocks = (int) (plan.lengthFrames() / blockFrames);
                millis = new double[blocks];
                for (int b = 0; b < blocks; b++) {
                    long start = System.nanoTime();
                    run.process((long) b * blockFrames, blockFrames);
                    millis[b] = (System.nanoTime() - start) * 1e-6;
                }
            }
        }
        // As a listener has it: the first second, until memory and files are there, is not counted.
        millis = Arrays.copyOfRange(millis, session.sampleRateHz() / blockFrames, millis.length);
        Arrays.sort(millis);
        ObjectNode node = Json.object();
        node.put("blockFrames", blockFrames);
        node.set("lastsMilliseconds", Json.figure(1_000.0 * blockFrames / session.sampleRateHz(), 2));
        node.set("medianMilliseconds", Json.figure(millis[millis.length / 2], 3));
        node.set("percentile999Milliseconds", Json.figure(millis[(int) (0.999 * millis.length)], 3));
        node.set("slowestMilliseconds", Json.figure(millis[millis.length - 1], 3));
        return node;
    }
}
