package waterwheel.core.load;

import java.util.Set;
import waterwheel.core.engine.LiveLoops;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.engine.PlanRun;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/** Measures the load without playing: a stretch of the song in the session's own blocks, on one thread, unheard. */
public final class LoadRun {
    /** What runs first and is not counted: until then everything is being compiled. */
    private static final int WARM_SECONDS = 3;

    private static final int ROWS = 256;

    private LoadRun() {}

    /**
     * Runs a stretch.
     *
     * @param frozen the channels whose frozen sound is played
     * @param from its first frame
     * @param to the frame after its last one
     * @throws java.util.concurrent.CancellationException if the progress says stop
     */
    public static Load run(Session session, Media media, Set<ChannelId> frozen, long from, long to, Progress progress) {
        int block = session.rack().blockFrames();
        try (Team alone = new Team(1)) {
            Plan plan = PlanCompiler.forPlayback(session, LiveLoops.NONE, frozen);
            PlanRun run = PlanRun.ofAll(plan, media, alone, block);
            run.clocked();
            LateBlocks late = new LateBlocks();
            long warm = Math.min(to, from + (long) WARM_SECONDS * session.sampleRateHz());
            LoadMeter unseen = new LoadMeter(plan, 1, new LateBlocks());
            through(run, unseen, block, from, warm, progress.part(0, 0));
            long blocks = Math.max(1, (to - from) / block);
            LoadMeter meter = new LoadMeter(plan, (int) Math.max(1, blocks / ROWS), late);
            through(run, meter, block, from, to, progress);
            return meter.read();
        }
    }

    private static void through(PlanRun run, LoadMeter meter, int block, long from, long to, Progress progress) {
        for (long at = from; at < to; at += block) {
            progress.check();
            int count = (int) Math.min(block, to - at);
            long begun = System.nanoTime();
            run.due(begun + meter.nanos(count));
            run.process(at, count);
            meter.take(run, System.nanoTime() - begun, count, at);
            progress.at((double) (at + count - from) / (to - from));
        }
    }
}
