package waterwheel.core.testing;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.BitSet;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.engine.PlanRun;
import waterwheel.core.session.Session;
import waterwheel.core.work.Team;

/**
 * Runs sessions through the engine, for tests of what comes out.
 *
 * @param folder where the sessions' files lie
 * @param threads how many share the work
 * @param block how many frames are computed at a time
 */
public record Renders(Path folder, int threads, int block) {
    /** With one thread and blocks of 512 frames. */
    public Renders(Path folder) {
        this(folder, 1, 512);
    }

    /** The mix of a whole song, its first frame the song's: {@code [side][frame]}. */
    public float[][] mix(Session session) {
        Plan plan = PlanCompiler.compile(session);
        return signal(session, plan, plan.output());
    }

    /** One signal of a plan over the song's frames: {@code [plane][frame]}. */
    public float[][] signal(Session session, Plan plan, int index) {
        int late = plan.latencies().get(index);
        int planes = plan.signals().get(index).planes();
        int frames = (int) plan.lengthFrames();
        BitSet wanted = new BitSet();
        wanted.set(index);
        float[][] out = new float[planes][frames];
        try (Media media = Media.open(session, folder);
                Team team = new Team(threads)) {
            PlanRun run = PlanRun.of(plan, media, team, block, wanted);
            for (int at = 0; at < frames + late; at += block) {
                int count = Math.min(block, frames + late - at);
                run.process(at, count);
                int skipped = Math.clamp((long) late - at, 0, count);
                for (int p = 0; p < planes && skipped < count; p++) {
                    System.arraycopy(run.signal(index)[p], skipped, out[p], at + skipped - late, count - skipped);
                }
            }
        }
        return out;
    }

    /** By how much two renders of one length differ at most, in dBFS. */
    public static double differenceDb(float[][] one, float[][] other) {
        double most = 0;
        for (int p = 0; p < one.length; p++) {
            assertThat(other[p]).hasSameSizeAs(one[p]);
            for (int i = 0; i < one[p].length; i++) {
                most = Math.max(most, Math.abs((double) one[p][i] - other[p][i]));
            }
        }
        return 20 * Math.log10(most);
    }
}
