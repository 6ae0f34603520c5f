package waterwheel.core.freezing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatExceptionOfType;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.concurrent.CancellationException;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.edit.Edits;
import waterwheel.core.edit.FlowEdits;
import waterwheel.core.edit.FreezeLock;
import waterwheel.core.engine.LiveLoops;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.engine.PlanRun;
import waterwheel.core.findings.Finding;
import waterwheel.core.findings.Findings;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.ProcessorKind;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.levels.SessionMeasurement;
import waterwheel.core.processing.Compressor;
import waterwheel.core.processing.Equaliser;
import waterwheel.core.processing.Limiter;
import waterwheel.core.processing.Reverb;
import waterwheel.core.processing.Saturator;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Freeze;
import waterwheel.core.session.Placement;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.store.SessionFolder;
import waterwheel.core.store.SessionLock;
import waterwheel.core.testing.Renders;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.testing.StopsAt;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/** Frozen channels sound as if they were computed, or are computed. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class FreezeTest {
    private static final int FRAMES = 30_000;
    private static final List<ProcessorKind> KINDS =
            List.of(Limiter.KIND, Compressor.KIND, Equaliser.KIND, Saturator.KIND, Reverb.KIND);
    private static final ChannelId ONE = Sessions.id("one");
    private static final ChannelId BUS = Sessions.id("bus");
    private static final SlotId A = new SlotId("a");
    private static final SlotId B = new SlotId("b");

    @TempDir
    Path folder;

    /** Two tracks on a bus with a return; every channel has two slots, the limiter's holding up what runs through it. */
    private Session session() throws Exception {
        Session plain = new Sessions(folder)
                .bus("bus", "main")
                .bus("return", "main")
                .track("one", "bus", Signals.noise(0.2, FRAMES, 1))
                .track("two", "bus", Signals.noise(0.2, FRAMES, 2), Signals.noise(0.2, FRAMES, 3))
                .build();
        return plain.withStrip(
                        ONE, s -> s.withInserts(List.of(Insert.of(A, Limiter.KIND), Insert.of(B, Equaliser.KIND)))
                                .withTrimDb(3)
                                .withFaderDb(-2)
                                .withPlacement(Placement.CENTRE.withPosition(-0.3))
                                .withSends(List.of(
                                        Send.toBus(Sessions.id("return"), -10).withPreFader(true))))
                .withStrip(
                        BUS, s -> s.withInserts(List.of(Insert.of(A, Compressor.KIND), Insert.of(B, Saturator.KIND))));
    }

    private Session frozen(Session session, FreezeRun.Wanted... wanted) throws Exception {
        return FreezeRun.Rendered.into(session, FreezeRun.run(session, folder, List.of(wanted), Progress.NONE));
    }

    private static FreezeRun.Wanted through(ChannelId channel, SlotId slot) {
        return new FreezeRun.Wanted(channel, Optional.of(slot));
    }

    private List<Freezes.State> states(Session session) {
        try (Media media = Media.open(session, folder)) {
            return Freezes.of(session, media).stream()
                    .map(Freezes.Frozen::state)
                    .toList();
        }
    }

    private Set<ChannelId> playable(Session session) {
        try (Media media = Media.open(session, folder)) {
            return Freezes.playable(session, media);
        }
    }

    /** The mix as it is rendered: with what is frozen of it. */
    private float[][] mix(Session session) {
        Plan plan = PlanCompiler.compile(session, playable(session));
        return new Renders(folder).signal(session, plan, plan.output());
    }

    @Test
    void a_frozen_track_and_a_frozen_bus_are_the_same_mix_to_the_bit_and_run_less() throws Exception {
        Session live = session();
        float[][] wanted = new Renders(folder).mix(live);
        Session track = frozen(live, through(ONE, B));
        Session bus = frozen(live, through(BUS, B));
        Session both = frozen(live, through(ONE, A), through(BUS, A));
        for (Session session : List.of(track, bus, both)) {
            assertThat(states(session)).containsOnly(Freezes.State.FRESH);
            assertThat(playable(session)).hasSameSizeAs(states(session));
            assertThat(mix(session)).isDeepEqualTo(wanted);
        }
        Plan plan = PlanCompiler.forPlayback(bus, LiveLoops.NONE, playable(bus));
        // Of a frozen bus the tracks before it, which send to no return, are not computed.
        assertThat(plan.heard().cardinality())
                .isLessThan(
                        PlanCompiler.forPlayback(live, LiveLoops.NONE).heard().cardinality());
    }

    @Test
    void what_is_played_is_what_is_played_unfrozen_at_every_block() throws Exception {
        Session live = session();
        Session both = frozen(live, through(ONE, A), through(BUS, B));
        for (int block : new int[] {64, 256, 1_000}) {
            assertThat(Renders.differenceDb(played(both, playable(both), block), played(live, Set.of(), block)))
                    .isLessThan(-120);
        }
    }

    private float[][] played(Session session, Set<ChannelId> frozen, int block) {
        Plan plan = PlanCompiler.forPlayback(session, LiveLoops.NONE, frozen);
        int late = plan.latencies().get(plan.monitor());
        float[][] out = new float[2][FRAMES];
        try (Media media = Media.open(session, folder);
                Team team = Team.alone()) {
            PlanRun run = PlanRun.ofAll(plan, media, team, block);
            for (int at = 0; at < FRAMES + late; at += block) {
                run.process(at, block);
                for (int i = 0; i < block; i++) {
                    int to = at + i - late;
                    for (int p = 0; p < 2 && to >= 0 && to < FRAMES; p++) {
                        out[p][to] = run.signal(plan.monitor())[p][i];
                    }
                }
            }
        }
        return out;
    }

    @Test
    void through_a_bypassed_slot_or_up_to_the_trim_it_is_what_is_there() throws Exception {
        Session live = session()
                .withStrip(
                        ONE,
                        s -> s.withInserts(
                                List.of(s.inserts().get(0), s.inserts().get(1).withBypassed(true))));
        float[][] wanted = new Renders(folder).mix(live);
        assertThat(mix(frozen(live, through(ONE, B)))).isDeepEqualTo(wanted);
        // A gain that was one with another is rounded by itself then.
        Session trim = frozen(live, new FreezeRun.Wanted(ONE, Optional.empty()));
        assertThat(Renders.differenceDb(mix(trim), wanted)).isLessThan(-120);
    }

    /** Whatever is edited, the mix is that of the session as if nothing were frozen. */
    @Test
    void random_edits_never_play_what_is_not_true_any_more() throws Exception {
        Random random = new Random(12);
        Session live = session();
        for (int round = 0; round < 12; round++) {
            List<FreezeRun.Wanted> wanted = new ArrayList<>();
            for (ChannelId id : List.of(ONE, BUS)) {
                if (random.nextBoolean()) {
                    wanted.add(through(id, random.nextBoolean() ? A : B));
                }
            }
            Session now = FreezeRun.Rendered.into(live, FreezeRun.run(live, folder, wanted, Progress.NONE));
            for (int step = 0; step < 4; step++) {
                Session edited = edit(now, random);
                boolean refused = FreezeLock.broken(now, edited).isPresent();
                if (!refused) {
                    assertThat(states(edited)).as("round %s", round).doesNotContain(Freezes.State.LOST);
                }
                // Even an edit that the lock would have refused plays nothing stale.
                Session unfrozen = FreezeLock.unfrozen(edited, List.of(ONE, BUS, Sessions.id("two")));
                assertThat(Renders.differenceDb(mix(edited), new Renders(folder).mix(unfrozen)))
                        .as("round %s step %s", round, step)
                        .isLessThan(-120);
                now = refused ? now : edited;
            }
        }
    }

    private static Session edit(Session session, Random random) {
        ChannelId id = List.of(ONE, BUS, Sessions.id("two"), Sessions.id("return"), Sessions.MAIN)
                .get(random.nextInt(5));
        return switch (random.nextInt(6)) {
            case 0 -> Edits.trim(session.channel(id), random.nextInt(12) - 6).apply(session);
            case 1 -> Edits.fader(session.channel(id), random.nextInt(12) - 6).apply(session);
            case 2 -> Edits.mute(session.channel(id), random.nextBoolean()).apply(session);
            case 3 -> session.withStrip(id, s -> s.withSoloed(!s.soloed()));
            case 4 ->
                FlowEdits.addInsert(session.channel(id), KINDS.get(random.nextInt(KINDS.size())))
                        .apply(session);
            default -> session.withStrip(id, s -> s.withPolarityInverted(!s.polarityInverted()));
        };
    }

    @Test
    void what_lies_before_is_locked_and_what_lies_behind_is_not() throws Exception {
        Session track = frozen(session(), through(ONE, A));
        Session bus = frozen(session(), through(BUS, A));
        List<UnaryOperator<Session>> beforeTrack = List.of(
                s -> s.withStrip(ONE, strip -> strip.withTrimDb(0)),
                s -> s.withStrip(ONE, strip -> strip.withPolarityInverted(true)),
                s -> s.withStrip(
                        ONE,
                        strip -> strip.withInserts(List.of(
                                strip.inserts().get(0).withInputDb(1),
                                strip.inserts().get(1)))),
                s -> FlowEdits.moveInsert(s.channel(ONE), B, -1).apply(s),
                s -> s.withChannels(s.channels().stream()
                        .map(c -> c instanceof Track t && t.id().equals(ONE) ? t.withClips(List.of()) : c)
                        .toList()));
        for (UnaryOperator<Session> edit : beforeTrack) {
            assertThat(FreezeLock.broken(track, edit.apply(track)).orElseThrow().sentence())
                    .startsWith("one is frozen through its Limiter");
        }
        List<UnaryOperator<Session>> behindTrack = List.of(
                s -> s.withStrip(ONE, strip -> strip.withFaderDb(-9)),
                s -> s.withStrip(ONE, strip -> strip.withMuted(true)),
                s -> s.withStrip(ONE, strip -> strip.withSoloed(true)),
                s -> s.withStrip(ONE, strip -> strip.withSends(List.of())),
                s -> FlowEdits.addInsert(s.channel(ONE), Reverb.KIND).apply(s),
                s -> FlowEdits.removeInsert(s.channel(ONE), B).apply(s),
                s -> s.withChannel(ONE, c -> c.withName("Another")),
                s -> s.withStrip(BUS, strip -> strip.withTrimDb(5)),
                s -> FreezeLock.unfreeze(s.channel(ONE)).apply(s));
        for (UnaryOperator<Session> edit : behindTrack) {
            assertThat(FreezeLock.broken(track, edit.apply(track))).isEmpty();
        }
        // Of what feeds a frozen bus all is locked, to its fader and its mute.
        assertThat(FreezeLock.broken(bus, behindTrack.get(0).apply(bus))).isPresent();
        assertThat(FreezeLock.broken(bus, behindTrack.get(1).apply(bus))).isPresent();
        assertThat(FreezeLock.broken(bus, behindTrack.get(2).apply(bus))).isEmpty();
        assertThat(FreezeLock.broken(bus, s(bus, BUS))).isEmpty();
    }

    private static Session s(Session session, ChannelId id) {
        return session.withStrip(id, strip -> strip.withFaderDb(-3));
    }

    @Test
    void soloing_one_track_of_a_frozen_bus_is_heard_and_the_bus_is_frozen_again_when_that_ends() throws Exception {
        Session bus = frozen(session(), through(BUS, B));
        Session soloed = bus.withStrip(ONE, s -> s.withSoloed(true));
        assertThat(states(soloed)).containsExactly(Freezes.State.FRESH);
        assertThat(playable(soloed)).isEmpty();
        assertThat(mix(soloed)).isDeepEqualTo(new Renders(folder).mix(soloed));
        assertThat(playable(bus)).containsExactly(BUS);
    }

    @Test
    void what_was_frozen_and_is_the_same_is_not_rendered_again_until_it_was_swept() throws Exception {
        Session live = session();
        Session once = frozen(live, through(ONE, B));
        Path file = folder.resolve(once.source(freeze(once).source()).path());
        FileTime long_ago = FileTime.fromMillis(1_000_000);
        Files.setLastModifiedTime(file, long_ago);
        Session thawed = FreezeLock.unfrozen(once, List.of(ONE));
        assertThat(thawed).isEqualTo(live);
        assertThat(freeze(frozen(thawed, through(ONE, B))).madeOf())
                .isEqualTo(freeze(once).madeOf());
        assertThat(Files.getLastModifiedTime(file)).isEqualTo(long_ago);
        // Another point is another file.
        frozen(thawed, through(ONE, A));
        try (Stream<Path> files = Files.list(folder.resolve(FreezeRun.FOLDER))) {
            assertThat(files.filter(one -> one.toString().endsWith(".wav"))).hasSize(2);
        }
        Path foreign = Files.writeString(folder.resolve(FreezeRun.FOLDER).resolve("mine.wav"), "mine");
        SessionFolder.save(thawed, folder);
        try (SessionLock lock = SessionLock.acquire(folder)) {
            lock.save(thawed, SessionFolder.load(folder));
        }
        try (Stream<Path> files = Files.list(folder.resolve(FreezeRun.FOLDER))) {
            assertThat(files).containsExactly(foreign);
        }
    }

    private static Freeze freeze(Session session) {
        return session.channel(ONE).strip().freeze().orElseThrow();
    }

    @Test
    void a_missing_or_damaged_file_or_another_source_plays_what_is_true() throws Exception {
        Session live = session();
        Session once = frozen(live, through(ONE, B));
        Path file = folder.resolve(once.source(freeze(once).source()).path());
        byte[] bytes = Files.readAllBytes(file);
        float[][] wanted = new Renders(folder).mix(live);
        Files.delete(file);
        assertThat(states(once)).containsExactly(Freezes.State.LOST);
        assertThat(mix(once)).isDeepEqualTo(wanted);
        bytes[bytes.length / 2] ^= 0x55;
        Files.write(file, bytes);
        Files.setLastModifiedTime(file, FileTime.fromMillis(2_000_000));
        assertThat(states(once)).containsExactly(Freezes.State.LOST);
        assertThat(mix(once)).isDeepEqualTo(wanted);
        Files.delete(file);
        Session again = frozen(live, through(ONE, B));
        Signals.wav(folder.resolve("one.wav"), Sessions.RATE, SampleEncoding.FLOAT_32, Signals.noise(0.3, FRAMES, 9));
        assertThat(states(again)).containsExactly(Freezes.State.STALE);
        Finding finding = Findings.of(SessionMeasurement.of(again, folder, Progress.NONE)).stream()
                .filter(one -> one.rule() == Finding.Rule.FROZEN_OUT_OF_DATE)
                .findFirst()
                .orElseThrow();
        assertThat(finding.sentence()).startsWith("one is frozen").endsWith("it plays unfrozen.");
        assertThat(states(finding.remedy().orElseThrow().apply(again))).isEmpty();
        assertThat(mix(again)).isDeepEqualTo(new Renders(folder).mix(live));
    }

    @Test
    void a_stop_leaves_no_file() throws Exception {
        Session live = session();
        assertThatExceptionOfType(CancellationException.class)
                .isThrownBy(() -> FreezeRun.run(live, folder, List.of(through(ONE, B)), new StopsAt(0)));
        try (Stream<Path> files = Files.list(folder.resolve(FreezeRun.FOLDER))) {
            assertThat(files).isEmpty();
        }
    }
}
