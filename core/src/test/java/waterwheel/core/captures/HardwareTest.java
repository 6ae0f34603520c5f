package waterwheel.core.captures;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatExceptionOfType;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.CancellationException;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.audiofile.RenderFormat;
import waterwheel.core.edit.RackEdits;
import waterwheel.core.edit.StemEdits;
import waterwheel.core.engine.Media;
import waterwheel.core.errors.RenderException;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.levels.ChannelLevels;
import waterwheel.core.levels.SessionMeasurement;
import waterwheel.core.outboard.LoopAnswer;
import waterwheel.core.processing.HardwareLoop;
import waterwheel.core.rack.Cable;
import waterwheel.core.rack.Driver;
import waterwheel.core.rack.Loop;
import waterwheel.core.rack.Rack;
import waterwheel.core.rack.UnitId;
import waterwheel.core.rides.Control;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.Ride;
import waterwheel.core.session.Session;
import waterwheel.core.session.StemDivision;
import waterwheel.core.simulation.SimulatedInterface;
import waterwheel.core.simulation.SimulatedUnits;
import waterwheel.core.stems.LevelPolicy;
import waterwheel.core.stems.StemRender;
import waterwheel.core.stems.StemRequest;
import waterwheel.core.stems.StemResult;
import waterwheel.core.stems.StemSettings;
import waterwheel.core.testing.Renders;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.testing.StopsAt;
import waterwheel.core.work.Progress;

/** Sessions whose signal leaves by the simulated interface and comes back. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class HardwareTest {
    private static final int BLOCK = 256;
    private static final SlotId HARDWARE = new SlotId("hw");
    private static final HardwareSlot ON_ONE = new HardwareSlot(Sessions.id("one"), HARDWARE);
    private static final HardwareSlot ON_BUS = new HardwareSlot(Sessions.id("bus"), HARDWARE);

    @TempDir
    Path folder;

    /** Two tracks into a bus; a cable from output 3 to input 3, and one from 5 to 5. */
    private Session session() throws Exception {
        return new Sessions(folder)
                .bus("bus", "main")
                .track("one", "bus", Signals.noise(0.2, 60_000, 1))
                .track("two", "bus", Signals.noise(0.2, 60_000, 2))
                .build()
                .withRack(new Rack(
                        Driver.SIMULATED,
                        1,
                        List.of(),
                        List.of(),
                        List.of(
                                new Cable(Optional.empty(), 3, 3),
                                new Cable(Optional.empty(), 5, 5),
                                new Cable(Optional.empty(), 6, 6))));
    }

    private static Insert slot(int port) {
        return Insert.of(HARDWARE, HardwareLoop.KIND)
                .withLoop(new Loop(Optional.empty(), port, port, Optional.empty(), Optional.empty()));
    }

    private static Session on(Session session, String channel, Insert insert) {
        return session.withStrip(Sessions.id(channel), s -> s.withInserts(List.of(insert)));
    }

    private static Session changed(Session session, String channel, UnaryOperator<Insert> change) {
        return session.withStrip(
                Sessions.id(channel),
                s -> s.withInserts(s.inserts().stream().map(change).toList()));
    }

    private static SimulatedInterface port(Session session) {
        return new SimulatedInterface(session.rack(), false);
    }

    private static Session timed(Session session) throws Exception {
        Session out = session;
        for (TimingRun.Found found :
                TimingRun.run(session, HardwareSlot.of(session), port(session), BLOCK, Progress.NONE)) {
            LoopAnswer.Timed answer = (LoopAnswer.Timed) found.answer();
            out = RackEdits.timing(session.channel(found.slot().channel()), HARDWARE, answer.timing())
                    .apply(out);
        }
        return out;
    }

    private Session captured(Session session) throws Exception {
        return captured(session, Set.copyOf(HardwareSlot.of(session)));
    }

    private Session captured(Session session, Set<HardwareSlot> slots) throws Exception {
        return new CaptureRun(folder, port(session), BLOCK).run(session, slots, captured -> {}, Progress.NONE);
    }

    private List<SlotState.State> states(Session session) {
        try (Media media = Media.open(session, folder)) {
            return Captures.of(session, media).stream().map(SlotState::state).toList();
        }
    }

    /** The largest difference of two mixes, dBFS. */
    private double differenceDb(Session a, Session b) {
        float[][] x = new Renders(folder).mix(a);
        float[][] y = new Renders(folder, 2, 333).mix(b);
        double most = 0;
        for (int p = 0; p < 2; p++) {
            for (int i = 0; i < x[p].length; i++) {
                most = Math.max(most, Math.abs((double) x[p][i] - y[p][i]));
            }
        }
        return 20 * Math.log10(most);
    }

    @Test
    void a_captured_cable_changes_nothing_but_24_bits_on_a_track_and_on_a_bus() throws Exception {
        Session plain = session();
        Session track = captured(timed(on(plain, "one", slot(3))));
        Session bus = captured(timed(on(plain, "bus", slot(5))));
        // Half a step of 24 bits twice, and the mix's own rounding.
        assertThat(differenceDb(plain, track)).isLessThan(-120);
        assertThat(differenceDb(plain, bus)).isLessThan(-120);
        assertThat(states(track)).containsExactly(SlotState.State.FRESH);
    }

    private static Insert ridden(Insert insert, Control control, double... values) {
        List<CurvePoint> points = new ArrayList<>();
        for (int i = 0; i < values.length; i++) {
            points.add(new CurvePoint(10_000L * i, values[i], CurvePoint.Shape.LINE));
        }
        return insert.withRides(insert.rides().with(control.key(), Ride.of(new Curve(points))));
    }

    /** What goes by and what comes back of a cable are the same, so whatever moves between them changes nothing. */
    @Test
    void rides_of_a_slots_mix_bypass_and_gains_move_between_what_goes_by_and_what_comes_back() throws Exception {
        Session plain = session();
        Insert slot = slot(3);
        List<Insert> harmless = List.of(
                ridden(slot, Insert.MIX, 0, 1, 0.3, 0.9, 0),
                ridden(slot, Insert.BYPASSED, 0, 1, 0, 1),
                ridden(ridden(slot, Insert.INPUT, -6, 6, 0, -12), Insert.OUTPUT, 6, -6, 0, 12));
        for (Insert insert : harmless) {
            Session captured = captured(timed(on(plain, "one", insert)));
            assertThat(states(captured)).containsExactly(SlotState.State.FRESH);
            // Two straight lines in factor are one another's inverse at control points alone: within 0.01 dB between.
            boolean gains = insert.rides().active(Insert.INPUT.key()).isPresent();
            assertThat(differenceDb(plain, captured)).isLessThan(gains ? -70 : -120);
        }
        // Silent where the way back is: half the sum less than the whole.
        Session quiet = captured(timed(on(plain, "one", ridden(slot, Insert.OUTPUT, -24, -24))));
        Session still = captured(timed(on(plain, "one", slot.withOutputDb(-24))));
        assertThat(differenceDb(quiet, still)).isLessThan(-120);
        assertThat(differenceDb(quiet, plain)).isGreaterThan(-20);
    }

    @Test
    void a_ride_of_the_send_gain_makes_the_capture_stale_and_one_of_the_return_gain_does_not() throws Exception {
        Session fresh = captured(timed(on(session(), "one", slot(3))));
        assertThat(states(changed(fresh, "one", i -> ridden(i, Insert.INPUT, 0, -3))))
                .containsExactly(SlotState.State.STALE);
        assertThat(states(changed(fresh, "one", i -> ridden(i, Insert.OUTPUT, 0, -3))))
                .containsExactly(SlotState.State.FRESH);
        assertThat(states(changed(fresh, "one", i -> ridden(i, Insert.MIX, 0, 1))))
                .containsExactly(SlotState.State.FRESH);
    }

    @Test
    void captures_are_the_same_samples_each_time_and_each_has_a_file_of_its_own() throws Exception {
        Session first = captured(timed(on(session(), "one", slot(3))));
        Session second = captured(first);
        try (Stream<Path> files = Files.list(folder.resolve(CaptureRun.FOLDER))) {
            List<Path> both = files.sorted().toList();
            assertThat(both).hasSize(2);
            assertThat(both.get(0)).hasSameBinaryContentAs(both.get(1));
        }
        // Only the later one is one of the session's files.
        assertThat(second.sources()).hasSameSizeAs(first.sources());
        assertThat(new Renders(folder).mix(second)).isDeepEqualTo(new Renders(folder).mix(first));
    }

    @Test
    void what_is_behind_the_loop_shapes_the_capture_and_what_is_before_makes_it_stale() throws Exception {
        Session fresh = captured(timed(on(session(), "one", slot(3))));
        List<UnaryOperator<Session>> behind = List.of(
                s -> changed(s, "one", i -> i.withOutputDb(-6)),
                s -> changed(s, "one", i -> i.withMix(0.5)),
                s -> changed(s, "one", i -> i.withProcessor(i.processor().with("offsetFrames", 3))),
                s -> changed(s, "one", i -> i.withProcessor(i.processor().with("polarity", 1))),
                s -> s.withStrip(Sessions.id("one"), strip -> strip.withFaderDb(-3)),
                s -> s.withTitle("Another"));
        for (UnaryOperator<Session> change : behind) {
            assertThat(states(change.apply(fresh))).containsExactly(SlotState.State.FRESH);
        }
        List<UnaryOperator<Session>> before = List.of(
                s -> changed(s, "one", i -> i.withInputDb(-6)),
                s -> changed(s, "one", i -> i.withLoop(i.processor().loop().withPorts(5, 5))),
                s -> s.withStrip(Sessions.id("one"), strip -> strip.withTrimDb(1)),
                s -> s.withStrip(Sessions.id("one"), strip -> strip.withPolarityInverted(true)));
        for (UnaryOperator<Session> change : before) {
            assertThat(states(change.apply(fresh))).containsExactly(SlotState.State.STALE);
        }
        assertThat(states(changed(fresh, "one", i -> i.withBypassed(true)))).containsExactly(SlotState.State.UNUSED);
        assertThat(states(changed(fresh, "one", i -> i.withMix(0)))).containsExactly(SlotState.State.UNUSED);
    }

    @Test
    void a_session_that_moved_to_another_folder_keeps_its_captures_and_a_lost_file_is_told_of() throws Exception {
        Session fresh = captured(timed(on(session(), "one", slot(3))));
        Path other = folder.resolve("elsewhere");
        Files.createDirectories(other.resolve("captures"));
        for (String file : List.of("one.wav", "two.wav", "captures/one-hw-1.wav")) {
            Files.copy(folder.resolve(file), other.resolve(file));
        }
        try (Media media = Media.open(fresh, other)) {
            assertThat(Captures.of(fresh, media).getFirst().state()).isEqualTo(SlotState.State.FRESH);
        }
        Files.delete(other.resolve("captures/one-hw-1.wav"));
        try (Media media = Media.open(fresh, other)) {
            assertThat(Captures.of(fresh, media).getFirst().state()).isEqualTo(SlotState.State.LOST);
        }
    }

    @Test
    void loops_behind_each_other_take_a_pass_each_and_others_share_one() throws Exception {
        Session both = on(on(session(), "one", slot(3)), "bus", slot(5));
        Session apart = on(on(session(), "one", slot(3)), "two", slot(5));
        assertThat(Captures.passes(both, Set.of(ON_ONE, ON_BUS))).containsExactly(List.of(ON_ONE), List.of(ON_BUS));
        // What lies behind one that is captured anew hears something else then.
        assertThat(Captures.passes(both, Set.of(ON_ONE))).containsExactly(List.of(ON_ONE), List.of(ON_BUS));
        assertThat(Captures.passes(both, Set.of(ON_BUS))).containsExactly(List.of(ON_BUS));
        assertThat(Captures.passes(apart, Set.copyOf(HardwareSlot.of(apart)))).hasSize(1);
        assertThat(differenceDb(session(), captured(timed(both)))).isLessThan(-120);
        assertThat(states(captured(timed(both)))).containsOnly(SlotState.State.FRESH);
    }

    @Test
    void nothing_is_rendered_of_what_is_not_captured_unless_it_is_asked_for() throws Exception {
        Session open = on(session(), "one", slot(3));
        Path out = Files.createDirectories(folder.resolve("renders")).resolve("mix.wav");
        assertThatExceptionOfType(RenderException.class)
                .isThrownBy(
                        () -> StemRender.mix(open, folder, out, RenderFormat.WAV_24, 0, false, false, Progress.NONE))
                .withMessageContaining("one (not captured)")
                .withMessageContaining("Capture it first");
        assertThat(out).doesNotExist();
        StemRender.mix(open, folder, out, RenderFormat.WAV_24, 0, false, true, Progress.NONE);
        assertThat(out).exists();
    }

    @Test
    void a_loop_on_a_bus_is_no_share_of_a_stem_by_track_until_each_stem_was_captured() throws Exception {
        Session bus = captured(timed(on(session(), "bus", slot(5))));
        StemRequest byBus = new StemRequest(
                        folder.resolve("stems"), RenderFormat.WAV_32F, new LevelPolicy.AsMixed(), false)
                .with(StemSettings.USUAL.withDivision(StemDivision.BUSES));
        assertThat(StemRender.render(bus, folder, byBus, Progress.NONE).proof().holds())
                .isTrue();
        StemRequest byTrack =
                new StemRequest(folder.resolve("tracks"), RenderFormat.WAV_32F, new LevelPolicy.AsMixed(), false);
        assertThatExceptionOfType(RenderException.class)
                .isThrownBy(() -> StemRender.render(bus, folder, byTrack, Progress.NONE))
                .withMessageContaining("The stem one")
                .withMessageContaining("bus (not captured)")
                .withMessageContaining("Capture the stems first");
        assertThat(folder.resolve("tracks")).doesNotExist();
        List<StemShare> shares = StemSettings.USUAL.shares(bus);
        assertThat(passes(bus, shares)).isEqualTo(2);
        Session whole = new CaptureRun(folder, port(bus), BLOCK).runStems(bus, shares, captured -> {}, Progress.NONE);
        assertThat(passes(whole, shares)).isZero();
        StemResult stems = StemRender.render(whole, folder, byTrack, Progress.NONE);
        assertThat(stems.proof().holds()).isTrue();
        // And the mix is what it was, by the capture of the whole.
        assertThat(states(whole)).containsExactly(SlotState.State.FRESH);
        assertThat(new Renders(folder).mix(whole)).isDeepEqualTo(new Renders(folder).mix(bus));
        // A change of one track leaves the other's stem as it is.
        Session louder = whole.withStrip(Sessions.id("one"), strip -> strip.withTrimDb(1));
        assertThat(passes(louder, shares)).isEqualTo(1);
        // Captured again, the earlier recording leaves the session's files, and stays on disk.
        Session again =
                new CaptureRun(folder, port(bus), BLOCK).runStems(louder, shares, captured -> {}, Progress.NONE);
        assertThat(again.sources()).hasSameSizeAs(whole.sources());
        assertThat(passes(again, shares)).isZero();
    }

    @Test
    void a_stem_put_together_by_hand_is_called_by_its_name_and_captured_like_others() throws Exception {
        Session bus = captured(timed(on(session(), "bus", slot(5))));
        Session named = StemEdits.add("Half", List.of(Sessions.id("one"))).apply(bus);
        StemSettings settings = StemSettings.USUAL.withDivision(named.stems());
        StemRequest request = new StemRequest(
                        folder.resolve("named"), RenderFormat.WAV_32F, new LevelPolicy.AsMixed(), false)
                .with(settings);
        assertThatExceptionOfType(RenderException.class)
                .isThrownBy(() -> StemRender.render(named, folder, request, Progress.NONE))
                .withMessageContaining("The stem Half");
        List<StemShare> shares = settings.shares(named);
        Session whole =
                new CaptureRun(folder, port(named), BLOCK).runStems(named, shares, captured -> {}, Progress.NONE);
        assertThat(passes(whole, shares)).isZero();
        assertThat(StemRender.render(whole, folder, request, Progress.NONE)
                        .proof()
                        .holds())
                .isTrue();
        // All that comes together on the bus as one is what was captured already.
        Session all = StemEdits.add("All", List.of(Sessions.id("bus"))).apply(bus);
        assertThat(passes(all, StemSettings.USUAL.withDivision(all.stems()).shares(all)))
                .isZero();
    }

    private int passes(Session session, List<StemShare> shares) {
        try (Media media = Media.open(session, folder)) {
            return CaptureRun.passes(session, shares, media);
        }
    }

    /** A loop on a track before one on its bus: what the second is sent of a stem hangs on what the first brought back. */
    @Test
    void loops_behind_each_other_are_captured_for_stems_too() throws Exception {
        Session chained = captured(timed(on(on(session(), "one", slot(3)), "bus", slot(5))));
        List<StemShare> shares = StemSettings.USUAL.shares(chained);
        assertThat(passes(chained, shares)).isEqualTo(2);
        Session whole =
                new CaptureRun(folder, port(chained), BLOCK).runStems(chained, shares, captured -> {}, Progress.NONE);
        assertThat(passes(whole, shares)).isZero();
        StemRequest byTrack =
                new StemRequest(folder.resolve("tracks"), RenderFormat.WAV_32F, new LevelPolicy.AsMixed(), false);
        assertThat(StemRender.render(whole, folder, byTrack, Progress.NONE)
                        .proof()
                        .holds())
                .isTrue();
    }

    @Test
    void a_stop_while_capturing_leaves_no_file_and_the_session_as_it_was() throws Exception {
        Session open = timed(on(session(), "one", slot(3)));
        List<List<Captured>> kept = new ArrayList<>();
        assertThatExceptionOfType(CancellationException.class)
                .isThrownBy(() -> new CaptureRun(folder, port(open), BLOCK)
                        .run(open, Set.of(ON_ONE), kept::add, new StopsAt(0.5)));
        assertThat(kept).isEmpty();
        try (Stream<Path> files = Files.list(folder.resolve(CaptureRun.FOLDER))) {
            assertThat(files.map(f -> String.valueOf(f.getFileName()))).noneMatch(name -> name.endsWith(".wav"));
        }
    }

    @Test
    void a_stage_tells_what_is_sent_and_what_came_back() throws Exception {
        UnitId id = new UnitId("u");
        Session session = session();
        Session equalised = on(
                session.withRack(session.rack()
                        .withUnit(SimulatedUnits.unit("tone", id))
                        .withCables(List.of(new Cable(Optional.of(id), 3, 3)))),
                "one",
                slot(3));
        TimingRun.Found found = TimingRun.run(equalised, List.of(ON_ONE), port(equalised), BLOCK, Progress.NONE)
                .getFirst();
        assertThat(((LoopAnswer.Timed) found.answer()).timing().inverted()).isTrue();
        assertThat(((LoopAnswer.Timed) found.answer()).timing().latencyFrames())
                .isCloseTo(BLOCK + 64 + 12e-6 * 48_000, within(1.0));
    }

    @Test
    void what_lies_around_a_slot_is_what_it_gets_and_what_leaves_it() throws Exception {
        Session quieter =
                captured(timed(on(session(), "one", slot(3).withInputDb(-6).withOutputDb(-6))));
        ChannelLevels.Around around = SessionMeasurement.of(quieter, folder, Progress.NONE)
                .of(Sessions.id("one"))
                .orElseThrow()
                .around(HARDWARE)
                .orElseThrow();
        assertThat(around.after().averageDbfs() - around.before().averageDbfs()).isCloseTo(-12, within(0.01));
    }
}
