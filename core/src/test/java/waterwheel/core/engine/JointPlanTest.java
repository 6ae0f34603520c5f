package waterwheel.core.engine;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;
import java.util.Set;
import java.util.SplittableRandom;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.LongRange;
import net.jqwik.api.lifecycle.AfterTry;
import net.jqwik.api.lifecycle.BeforeTry;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.processing.Compressor;
import waterwheel.core.processing.Delay;
import waterwheel.core.processing.Limiter;
import waterwheel.core.session.Channel;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.work.Leftovers;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/** Plans that are run as one give what each gives by itself, and what they have in common is there once. */
class JointPlanTest {
    private static final int FRAMES = 6_000;

    private Path folder = Path.of("");

    @BeforeTry
    void make_a_folder() throws Exception {
        folder = Files.createTempDirectory("joint");
    }

    @AfterTry
    void remove_it() throws Exception {
        Leftovers.deleteTree(folder);
    }

    private Session session(SplittableRandom random) throws Exception {
        Session session = new Sessions(folder)
                .bus("room", "main")
                .bus("group", "main")
                .track("one", "group", Signals.noise(0.5, FRAMES, 1), Signals.noise(0.3, FRAMES, 2))
                .track("two", "group", Signals.noise(0.2, FRAMES, 3))
                .track("three", "main", Signals.noise(0.1, FRAMES, 4))
                .build();
        for (Channel channel : session.channels()) {
            List<Insert> inserts = new ArrayList<>();
            for (int i = random.nextInt(3); i > 0; i--) {
                inserts.add(Insert.of(
                        new SlotId("slot" + i),
                        List.of(Compressor.KIND, Limiter.KIND, Delay.KIND).get(random.nextInt(3))));
            }
            boolean sends = channel instanceof Track && random.nextBoolean();
            session = session.withStrip(channel.id(), strip -> strip.withInserts(inserts)
                    .withFaderDb(random.nextDouble(-20, 6))
                    .withSends(sends ? List.of(Send.toBus(Sessions.id("room"), -6)) : List.of()));
        }
        return session;
    }

    @Property(tries = 40)
    void each_end_is_what_its_own_plan_gives(@ForAll @LongRange(min = 0, max = 1_000_000) long seed) throws Exception {
        SplittableRandom random = new SplittableRandom(seed);
        Session session = session(random);
        List<Plan> plans = new ArrayList<>();
        List<Integer> wanted = new ArrayList<>();
        plans.add(PlanCompiler.compile(session));
        wanted.add(plans.getFirst().output());
        for (Track track : session.tracks()) {
            boolean apart = random.nextBoolean();
            StemPart part = new StemPart(
                    track::equals, Set.of(), apart ? Set.of(Sessions.id("room")) : Set.of(), random.nextBoolean());
            Plan plan = PlanCompiler.compile(session, part);
            plans.add(plan);
            wanted.add(plan.monitor());
        }
        try (Media media = Media.open(session, folder);
                Team team = new Team(2)) {
            JointPlan joint = JointPlan.of(plans, wanted, media);
            float[][][] together = run(joint.plan(), joint.ends(), media, team);
            for (int i = 0; i < plans.size(); i++) {
                float[][][] alone = run(plans.get(i), List.of(wanted.get(i)), media, team);
                assertThat(Arrays.deepEquals(together[i], alone[0]))
                        .as("plan %d", i)
                        .isTrue();
            }
            long sources = joint.plan().signals().stream()
                    .filter(Signal.Source.class::isInstance)
                    .count();
            assertThat(sources).as("each file is read once").isLessThanOrEqualTo(3);
        }
    }

    private static float[][][] run(Plan plan, List<Integer> signals, Media media, Team team) {
        BitSet wanted = new BitSet();
        signals.forEach(wanted::set);
        PlanRun run = PlanRun.ofStretch(plan, media, team, 512, wanted);
        float[][][] heard = new float[signals.size()][2][FRAMES];
        int latest = 0;
        for (int i = 0; i < signals.size(); i++) {
            float[][] to = heard[i];
            int late = plan.latencies().get(signals.get(i));
            latest = Math.max(latest, late);
            run.listen(signals.get(i), (planes, first, count) -> {
                for (int n = 0; n < count; n++) {
                    long frame = first + n - late;
                    if (frame >= 0 && frame < FRAMES) {
                        to[0][(int) frame] = planes[0][n];
                        to[1][(int) frame] = planes[1][n];
                    }
                }
            });
        }
        run.stretch(0, FRAMES + latest, Progress.NONE);
        return heard;
    }
}
