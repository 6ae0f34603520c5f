package waterwheel.core.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatIllegalStateException;
import static org.assertj.core.api.Assertions.within;

import com.sun.management.ThreadMXBean;
import java.lang.management.ManagementFactory;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.BitSet;
import java.util.Set;
import java.util.concurrent.atomic.AtomicIntegerArray;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.edit.Edits;
import waterwheel.core.session.PanLaw;
import waterwheel.core.session.Placement;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.work.Team;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class PlanRunTest {
    private static final int FRAMES = 10_000;

    @TempDir
    Path folder;

    private final float[] mono = Signals.noise(0.3, FRAMES, 1);
    private final float[] left = Signals.noise(0.3, FRAMES, 2);
    private final float[] right = Signals.noise(0.3, FRAMES, 3);

    /** Runs the whole song and returns the mix. */
    private float[][] mix(Session session, int threads, int block) {
        Plan plan = PlanCompiler.compile(session);
        return signal(session, plan, plan.output(), threads, block);
    }

    private float[][] signal(Session session, Plan plan, int index, int threads, int block) {
        BitSet wanted = new BitSet();
        wanted.set(index);
        float[][] out = new float[2][(int) plan.lengthFrames()];
        try (Media media = Media.open(session, folder);
                Team team = new Team(threads)) {
            PlanRun run = PlanRun.of(plan, media, team, block, wanted);
            for (int at = 0; at < out[0].length; at += block) {
                int count = Math.min(block, out[0].length - at);
                run.process(at, count);
                for (int p = 0; p < 2; p++) {
                    System.arraycopy(run.signal(index)[p], 0, out[p], at, count);
                }
            }
        }
        return out;
    }

    private Session busy() throws Exception {
        return new Sessions(folder)
                .track("mono", "bus", mono)
                .track("stereo", "bus", left, right)
                .track("other", "main", Track.Kind.SUSTAINED, SampleEncoding.PCM_24, right)
                .bus("bus", "main")
                .build()
                .withStrip(
                        Sessions.id("mono"), s -> s.withTrimDb(-7.3).withPlacement(Placement.CENTRE.withPosition(0.3)))
                .withStrip(Sessions.id("stereo"), s -> s.withFaderDb(3.1)
                        .withPlacement(new Placement(-0.4, 0.5, Placement.Mode.PLACE)))
                .withStrip(Sessions.id("bus"), s -> s.withFaderDb(-2).withPolarityInverted(true));
    }

    @Test
    void a_fader_handed_to_the_trim_leaves_the_mix_as_it_was() throws Exception {
        Session low =
                busy().withStrip(Sessions.id("stereo"), s -> s.withTrimDb(-20).withFaderDb(-35));
        Session handed = Edits.faderToTrim(low.channels()).apply(low);
        // -55 dB does not fit a trim of at most 48, so the fader keeps the rest.
        assertThat(handed.channel(Sessions.id("stereo")).strip().trimDb()).isEqualTo(-48);
        assertThat(handed.channel(Sessions.id("stereo")).strip().faderDb()).isCloseTo(-7, within(1e-9));
        assertThat(handed.channel(Sessions.id("bus")).strip().faderDb()).isZero();
        float[][] before = mix(low, 1, 512);
        float[][] after = mix(handed, 1, 512);
        for (int p = 0; p < 2; p++) {
            for (int i = 0; i < FRAMES; i++) {
                assertThat((double) after[p][i]).isCloseTo(before[p][i], within(1e-7));
            }
        }
    }

    @ParameterizedTest
    @ValueSource(ints = {64, 480, 1_024, 7_777})
    void neither_block_size_nor_threads_change_a_bit(int block) throws Exception {
        float[][] expected = mix(busy(), 1, 4_096);
        for (int threads : new int[] {1, 2, 3}) {
            assertThat(mix(busy(), threads, block)).as("%d threads", threads).isDeepEqualTo(expected);
        }
    }

    @Test
    void a_1_kHz_sine_at_minus_18_under_minus_3_dB_reads_minus_21_in_the_centre_and_minus_18_hard_left()
            throws Exception {
        Session session = new Sessions(folder)
                .track("tone", "main", Signals.sine(1_000, -18, 48_000, 0.2))
                .build();
        float[][] centred = mix(session, 1, 512);
        assertThat(peakDb(centred[0])).isCloseTo(-21.01, within(0.01));
        assertThat(peakDb(centred[1])).isCloseTo(-21.01, within(0.01));
        float[][] hard = mix(
                session.withStrip(Sessions.id("tone"), s -> s.withPlacement(Placement.CENTRE.withPosition(-1))),
                1,
                512);
        assertThat(peakDb(hard[0])).isCloseTo(-18, within(0.01));
        assertThat(hard[1]).containsOnly(0);
    }

    private static double peakDb(float[] plane) {
        float most = 0;
        for (float sample : plane) {
            most = Math.max(most, Math.abs(sample));
        }
        return 20 * Math.log10(most);
    }

    @Test
    void a_channel_is_polarity_trim_fader_and_placement_multiplied() throws Exception {
        Session session = new Sessions(folder)
                .track("mono", "main", mono)
                .build()
                .withPanLaw(PanLaw.MINUS_6)
                .withStrip(
                        Sessions.id("mono"),
                        s -> s.withPolarityInverted(true).withTrimDb(-6).withFaderDb(2));
        double gain = -Math.pow(10, -4 / 20.0) * 0.5;
        float[][] found = mix(session, 1, 1_000);
        for (int i = 0; i < FRAMES; i++) {
            assertThat((double) found[0][i]).isCloseTo(gain * mono[i], within(1e-7));
        }
    }

    @Test
    void a_muted_track_and_its_absence_are_the_same_mix() throws Exception {
        Session whole = busy();
        float[][] muted = mix(whole.withStrip(Sessions.id("mono"), s -> s.withMuted(true)), 2, 512);
        Plan without = PlanCompiler.compile(
                whole, new StemPart(track -> !track.id().equals(Sessions.id("mono")), Set.of(), Set.of(), false));
        assertThat(muted).isDeepEqualTo(signal(whole, without, without.output(), 2, 512));
    }

    @Test
    void cues_are_heard_while_working_and_are_not_in_the_mix() throws Exception {
        Session session = new Sessions(folder)
                .track("music", "main", left, right)
                .track("click", "main", Track.Kind.CUE, SampleEncoding.FLOAT_32, mono)
                .build();
        Plan plan = PlanCompiler.compile(session);
        assertThat(mix(session, 1, 512)[0]).containsExactly(left);
        float[][] monitored = signal(session, plan, plan.monitor(), 1, 512);
        for (int i = 0; i < FRAMES; i++) {
            assertThat((double) monitored[0][i]).isCloseTo(left[i] + Math.sqrt(0.5) * mono[i], within(1e-7));
        }
    }

    @Test
    void a_missing_file_is_silent_and_named() throws Exception {
        Session session = new Sessions(folder).track("lost", "main", mono).build();
        Files.delete(folder.resolve("lost.wav"));
        assertThat(mix(session, 1, 512)[0]).containsOnly(0);
        try (Media media = Media.open(session, folder)) {
            assertThat(media.problem(session.sources().getFirst().id())).hasMessageContaining("lost.wav");
        }
    }

    @Test
    void the_block_loop_allocates_nothing() throws Exception {
        Session session = busy();
        Plan plan = PlanCompiler.compile(session);
        ThreadMXBean threads = (ThreadMXBean) ManagementFactory.getThreadMXBean();
        try (Media media = Media.open(session, folder)) {
            PlanRun run = PlanRun.ofAll(plan, media, Team.alone(), 256);
            for (int i = 0; i < 20_000; i++) {
                run.process(i % 30 * 256L, 256);
            }
            long before = threads.getCurrentThreadAllocatedBytes();
            for (int i = 0; i < 10_000; i++) {
                run.process(i % 30 * 256L, 256);
            }
            // Ten thousand blocks; even one object a block would be 160,000 bytes.
            assertThat(threads.getCurrentThreadAllocatedBytes() - before).isLessThan(2_000);
        }
    }

    @Test
    void a_team_does_every_task_of_every_job_exactly_once() {
        try (Team team = new Team(4)) {
            AtomicIntegerArray done = new AtomicIntegerArray(40);
            for (int job = 1; job <= 50_000; job++) {
                int tasks = 1 + job % 40;
                team.run(tasks, done::incrementAndGet);
                int before = job;
                if (job % 40 == 0) {
                    int[] counts = new int[40];
                    Arrays.setAll(counts, done::get);
                    for (int task = 0; task < 40; task++) {
                        assertThat(counts[task]).as("task %d", task).isEqualTo(before / 40 * (40 - task));
                    }
                }
            }
        }
    }

    @Test
    void what_a_task_throws_is_thrown_to_the_caller_and_the_team_works_on() {
        try (Team team = new Team(2)) {
            assertThatIllegalStateException()
                    .isThrownBy(() -> team.run(5, task -> {
                        if (task == 3) {
                            throw new IllegalStateException("third");
                        }
                    }))
                    .withMessage("third");
            AtomicIntegerArray done = new AtomicIntegerArray(5);
            team.run(5, done::incrementAndGet);
            assertThat(done.toString()).isEqualTo("[1, 1, 1, 1, 1]");
        }
    }
}
