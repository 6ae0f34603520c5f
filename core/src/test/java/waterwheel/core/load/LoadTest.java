package waterwheel.core.load;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;
import org.assertj.core.data.Offset;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.engine.LiveLoops;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.engine.PlanRun;
import waterwheel.core.freezing.FreezeRun;
import waterwheel.core.freezing.Freezes;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.processing.Equaliser;
import waterwheel.core.processing.Reverb;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/** What takes time is what is told to. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class LoadTest {
    private static final int FRAMES = 96_000;
    private static final int BLOCK = 512;
    private static final ChannelId DEAR = Sessions.id("dear");
    private static final ChannelId CHEAP = Sessions.id("cheap");
    private static final ChannelId BUS = Sessions.id("bus");
    private static final SlotId A = new SlotId("a");
    private static final SlotId B = new SlotId("b");

    @TempDir
    Path folder;

    @SuppressWarnings("NullAway.Init")
    private Session session;

    @BeforeEach
    void one_track_of_a_bus_has_a_reverb_the_other_nothing() throws Exception {
        session = new Sessions(folder)
                .bus("bus", "main")
                .track("dear", "bus", Signals.noise(0.2, FRAMES, 1))
                .track("cheap", "bus", Signals.noise(0.2, FRAMES, 2))
                .build()
                .withStrip(DEAR, s -> s.withInserts(List.of(Insert.of(A, Equaliser.KIND), Insert.of(B, Reverb.KIND))));
    }

    private Load run(Session of) {
        try (Media media = Media.open(of, folder)) {
            return LoadRun.run(of, media, Freezes.playable(of, media), 0, FRAMES, Progress.NONE);
        }
    }

    private Channel channel(ChannelId id) {
        return session.channel(id);
    }

    @Test
    void the_parts_add_up_to_nearly_the_whole() {
        // A busy machine takes time away between two parts, so the calmest of some runs tells.
        assertThat(IntStream.range(0, 5).mapToDouble(i -> partsOfWhole()).max().orElseThrow())
                .isBetween(0.5, 1.0);
    }

    private double partsOfWhole() {
        Load load = run(session);
        return load.parts().stream().mapToDouble(PartLoad::mean).sum()
                / load.whole().mean();
    }

    @Test
    void the_dearest_part_is_the_reverb() {
        Load load = run(session);
        PartLoad reverb = load.of(DEAR, Optional.of(B)).orElseThrow();
        assertThat(load.parts()).allMatch(one -> one.usual() <= reverb.usual());
        assertThat(load.of(channel(DEAR)).usual())
                .isGreaterThan(2 * load.of(channel(CHEAP)).usual());
        assertThat(load.of(DEAR, Optional.of(new SlotId("none")))).isEmpty();
        assertThat(load.parts()).allMatch(one -> one.worst() >= one.usual());
    }

    @Test
    void freezing_saves_what_is_computed_for_the_frozen_sound_alone() throws Exception {
        Load load = run(session);
        double reverb = load.of(DEAR, Optional.of(B)).orElseThrow().usual();
        double track = Saving.of(load, session, List.of(FreezeRun.Wanted.last(channel(DEAR))))
                .orElseThrow();
        double bus = Saving.of(load, session, List.of(FreezeRun.Wanted.last(channel(BUS))))
                .orElseThrow();
        double both = Saving.of(
                        load,
                        session,
                        List.of(FreezeRun.Wanted.last(channel(DEAR)), FreezeRun.Wanted.last(channel(BUS))))
                .orElseThrow();
        assertThat(track).isGreaterThanOrEqualTo(reverb);
        assertThat(bus).isGreaterThan(track);
        assertThat(both).isEqualTo(bus);
        double before = Saving.of(load, session, List.of(new FreezeRun.Wanted(DEAR, Optional.of(A))))
                .orElseThrow();
        assertThat(before).isLessThan(track);
        Session frozen = FreezeRun.Rendered.into(
                session, FreezeRun.run(session, folder, List.of(FreezeRun.Wanted.last(channel(DEAR))), Progress.NONE));
        Load after = run(frozen);
        assertThat(after.of(frozen.channel(DEAR)).usual())
                .isLessThan(load.of(channel(DEAR)).usual() / 2);
        assertThat(Saving.of(after, frozen, List.of(FreezeRun.Wanted.last(channel(DEAR)))))
                .isEmpty();
    }

    @Test
    void a_track_that_also_feeds_something_else_is_not_saved_with_its_bus() throws Exception {
        Session sends = session.withStrip(DEAR, s -> s.withExtraOutputs(List.of(session.mainId())));
        Load load = run(sends);
        assertThat(Saving.of(load, sends, List.of(FreezeRun.Wanted.last(channel(BUS))))
                        .orElseThrow())
                .isLessThan(load.of(DEAR, Optional.of(B)).orElseThrow().usual());
    }

    /** The run is real, the time that its blocks took is given. */
    private LoadMeter metered(int blocks, LateBlocks late, long... nanos) {
        Plan plan = PlanCompiler.forPlayback(session, LiveLoops.NONE);
        try (Media media = Media.open(session, folder);
                Team alone = new Team(1)) {
            PlanRun run = PlanRun.ofAll(plan, media, alone, BLOCK);
            run.clocked();
            LoadMeter meter = new LoadMeter(plan, 1, late);
            for (int i = 0; i < blocks; i++) {
                long whole = nanos[i % nanos.length];
                // What should be done before it begins is late with the first thing that is at work.
                run.due(System.nanoTime() + (whole > meter.nanos(BLOCK) ? 0 : 1_000_000_000L));
                run.process((long) i * BLOCK, BLOCK);
                meter.take(run, whole, BLOCK, (long) i * BLOCK);
            }
            return meter;
        }
    }

    @Test
    void late_blocks_are_counted_with_their_place_and_what_was_at_work() {
        LateBlocks late = new LateBlocks();
        long block = BLOCK * 1_000_000_000L / 48_000;
        Load load = metered(8, late, block / 4, block / 2, block / 4, 2 * block).read();
        assertThat(load.lateCount()).isEqualTo(2);
        assertThat(load.lateBlocks()).extracting(LateBlock::frame).containsExactly(7L * BLOCK, 3L * BLOCK);
        assertThat(load.lateBlocks()).allSatisfy(one -> {
            assertThat(one.share()).isCloseTo(2, Offset.offset(1e-3));
            assertThat(one.atWork().channel()).isPresent();
        });
        assertThat(load.whole().worst()).isCloseTo(2, Offset.offset(1e-3));
        assertThat(load.whole().usual()).isCloseTo(0.5, Offset.offset(1e-3));
        assertThat(load.whole().mean()).isCloseTo(0.75, Offset.offset(1e-3));
    }

    @Test
    void the_worst_is_forgotten_after_ten_seconds_of_blocks_and_goes_over_to_another_shape() {
        long block = BLOCK * 1_000_000_000L / 48_000;
        LateBlocks late = new LateBlocks();
        LoadMeter meter = metered(1, late, 3 * block);
        LoadMeter next = metered(0, late, block);
        next.adopt(meter);
        assertThat(next.read().whole().worst()).isCloseTo(3, Offset.offset(1e-3));
        assertThat(next.read().empty()).isTrue();
        long[] calm = new long[11 * 48_000 / BLOCK];
        Arrays.fill(calm, block / 2);
        calm[0] = 3 * block;
        Load load = metered(calm.length, new LateBlocks(), calm).read();
        assertThat(load.whole().worst()).isCloseTo(0.5, Offset.offset(1e-3));
        assertThat(load.lateCount()).isEqualTo(1);
    }

    @Test
    void only_the_last_late_blocks_are_kept_and_all_are_counted() {
        LateBlocks late = new LateBlocks();
        for (int i = 0; i < 100; i++) {
            late.note(i, 2, Part.METERS);
        }
        assertThat(late.count()).isEqualTo(100);
        assertThat(late.last()).hasSize(64).first().satisfies(one -> assertThat(one.frame())
                .isEqualTo(99));
    }

    @Test
    void measuring_changes_no_sample() throws Exception {
        Set<ChannelId> none = Set.of();
        Plan plan = PlanCompiler.forPlayback(session, LiveLoops.NONE, none);
        try (Media media = Media.open(session, folder);
                Team alone = new Team(1)) {
            PlanRun plain = PlanRun.ofAll(plan, media, alone, BLOCK);
            PlanRun clocked = PlanRun.ofAll(plan, media, alone, BLOCK);
            clocked.clocked();
            for (long at = 0; at < 20L * BLOCK; at += BLOCK) {
                plain.process(at, BLOCK);
                clocked.due(System.nanoTime());
                clocked.process(at, BLOCK);
                assertThat(clocked.signal(plan.monitor())).isDeepEqualTo(plain.signal(plan.monitor()));
            }
            assertThat(plain.spent()).isEmpty();
            assertThat(clocked.spent()).hasSize(plan.signals().size() + 1);
        }
    }
}
