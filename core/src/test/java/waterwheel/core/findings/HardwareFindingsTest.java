package waterwheel.core.findings;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.captures.CaptureRun;
import waterwheel.core.captures.HardwareSlot;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.levels.SessionMeasurement;
import waterwheel.core.processing.HardwareLoop;
import waterwheel.core.rack.Cable;
import waterwheel.core.rack.Device;
import waterwheel.core.rack.Driver;
import waterwheel.core.rack.Expectation;
import waterwheel.core.rack.Loop;
import waterwheel.core.rack.LoopTiming;
import waterwheel.core.rack.Rack;
import waterwheel.core.rack.Reamplifier;
import waterwheel.core.rack.Unit;
import waterwheel.core.rack.UnitId;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Output;
import waterwheel.core.session.Session;
import waterwheel.core.simulation.SimulatedInterface;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.work.Progress;

/** What is said of loops, and that nothing is said of one that is patched, timed, driven and captured as it should be. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class HardwareFindingsTest {
    private static final ChannelId ONE = Sessions.id("one");
    private static final ChannelId TWO = Sessions.id("two");
    private static final SlotId SLOT = new SlotId("hw");
    private static final UnitId BOX = new UnitId("box");
    private static final Set<Finding.Rule> HARDWARE = Set.of(
            Finding.Rule.SEND_CLIPS,
            Finding.Rule.RETURN_CLIPS,
            Finding.Rule.NOTHING_COMES_BACK,
            Finding.Rule.PORT_TWICE,
            Finding.Rule.CAPTURE_OUT_OF_DATE,
            Finding.Rule.LOOP_NOT_TIMED,
            Finding.Rule.LOOP_INVERTED,
            Finding.Rule.UNIT_LEVEL,
            Finding.Rule.LOOP_NOISE,
            Finding.Rule.LOOP_FRACTION);

    @TempDir
    Path folder;

    /** Two tracks at nominal level, of which the first goes through a box on ports 3; the box passes all as it is. */
    private Session session(UnaryOperator<Insert> change, UnaryOperator<Rack> around) throws Exception {
        Unit box = new Unit(
                BOX, "Box", 1, Expectation.LINE, Optional.of(new Reamplifier(0, false, 10_000)), List.of(), "", "");
        Rack rack = new Rack(Driver.SIMULATED, 1, List.of(), List.of(box), List.of(new Cable(Optional.empty(), 3, 3)));
        Insert slot = Insert.of(SLOT, HardwareLoop.KIND)
                .withLoop(new Loop(Optional.of(BOX), 3, 3, Optional.of(timing()), Optional.empty()));
        return new Sessions(folder)
                .track("one", "main", Signals.sine(500, -18, 48_000, 2))
                .track("two", "main", Signals.sine(700, -18, 48_000, 2))
                .build()
                .withRack(around.apply(rack))
                .withStrip(ONE, s -> s.withInserts(List.of(change.apply(slot))));
    }

    private static LoopTiming timing() {
        return timing(320, false, -110, OptionalDouble.empty(), Device.USUAL_BLOCK_FRAMES);
    }

    private static LoopTiming timing(
            double latency, boolean inverted, double noiseDbfs, OptionalDouble hum, int block) {
        return new LoopTiming(
                latency, inverted, 0, noiseDbfs, hum, noiseDbfs, 90, 48_000, block, SimulatedInterface.NAME);
    }

    private Session captured(Session session) throws Exception {
        return new CaptureRun(folder, new SimulatedInterface(session.rack(), false), Device.USUAL_BLOCK_FRAMES)
                .run(session, Set.copyOf(HardwareSlot.of(session)), any -> {}, Progress.NONE);
    }

    private List<Finding> of(Session session) {
        return Findings.of(SessionMeasurement.asShown(session, folder, Progress.NONE)).stream()
                .filter(finding -> HARDWARE.contains(finding.rule()))
                .toList();
    }

    /** What is said of a captured session with something changed before it was captured. */
    private Finding only(UnaryOperator<Insert> change, UnaryOperator<Rack> around) throws Exception {
        List<Finding> found = of(captured(session(change, around)));
        assertThat(found).hasSize(1);
        return found.getFirst();
    }

    private Finding only(UnaryOperator<Insert> change) throws Exception {
        return only(change, rack -> rack);
    }

    private static UnaryOperator<Insert> timed(LoopTiming timing) {
        return i -> i.withLoop(i.processor().loop().withTiming(Optional.of(timing)));
    }

    @Test
    void of_a_loop_as_it_should_be_nothing_is_said() throws Exception {
        assertThat(of(captured(session(i -> i, rack -> rack)))).isEmpty();
    }

    @Test
    void one_that_was_not_captured_passes_nothing_and_can_be_bypassed() throws Exception {
        Session session = session(i -> i, rack -> rack);
        assertThat(of(session)).singleElement().satisfies(f -> {
            assertThat(f.rule()).isEqualTo(Finding.Rule.NOTHING_COMES_BACK);
            assertThat(f.severity()).isEqualTo(Finding.Severity.LOSS);
            assertThat(f.sentence()).contains("one \u203a Box was never captured");
            assertThat(of(f.remedy().orElseThrow().apply(session))).isEmpty();
        });
    }

    @Test
    void one_without_ports_too() throws Exception {
        Session session = session(i -> i.withLoop(i.processor().loop().withPorts(0, 0)), rack -> rack);
        assertThat(of(session)).singleElement().satisfies(f -> assertThat(f.sentence())
                .contains("has no ports: nothing passes through it"));
    }

    @Test
    void an_old_capture_says_by_how_much_more_is_sent() throws Exception {
        Session later = captured(session(i -> i, rack -> rack)).withStrip(ONE, s -> s.withTrimDb(3));
        assertThat(of(later)).singleElement().satisfies(f -> {
            assertThat(f.rule()).isEqualTo(Finding.Rule.CAPTURE_OUT_OF_DATE);
            assertThat(f.sentence()).contains("something else was sent (+3.0 dB since)");
        });
    }

    @Test
    void a_loop_that_was_not_timed_or_under_other_settings_is_told_of() throws Exception {
        assertThat(only(i -> i.withLoop(i.processor().loop().withTiming(Optional.empty())))
                        .sentence())
                .contains("is not timed");
        assertThat(only(timed(timing(320, false, -110, OptionalDouble.empty(), 128)))
                        .sentence())
                .contains("in blocks of 128", "in blocks of 256: it comes back at another time now");
    }

    @Test
    void inverted_polarity_can_be_turned_back() throws Exception {
        Finding finding = only(timed(timing(320, true, -110, OptionalDouble.empty(), 256)));
        assertThat(finding.rule()).isEqualTo(Finding.Rule.LOOP_INVERTED);
        Session session = captured(session(timed(timing(320, true, -110, OptionalDouble.empty(), 256)), rack -> rack));
        assertThat(of(finding.remedy().orElseThrow().apply(session))).isEmpty();
    }

    @Test
    void a_fraction_between_dry_and_processed_matters_only_where_both_are_heard() throws Exception {
        LoopTiming half = timing(320.4, false, -110, OptionalDouble.empty(), 256);
        Finding finding = only(i -> timed(half).apply(i).withMix(0.5));
        assertThat(finding.rule()).isEqualTo(Finding.Rule.LOOP_FRACTION);
        assertThat(finding.sentence()).contains("0.40 of a sample");
        assertThat(of(captured(session(timed(half), rack -> rack)))).isEmpty();
    }

    @Test
    void what_would_clip_a_converter_is_named_with_the_port_and_put_right() throws Exception {
        Session session = session(i -> i.withInputDb(24).withOutputDb(-24), rack -> rack);
        Session loud = captured(session.withStrip(ONE, s -> s.withTrimDb(0)));
        List<Finding> found = of(loud);
        assertThat(found).extracting(Finding::rule).contains(Finding.Rule.SEND_CLIPS, Finding.Rule.RETURN_CLIPS);
        Finding send = found.getFirst();
        assertThat(send.sentence()).contains("+6.0 dBFS at its peak", "Output 3 ends at full scale");
        assertThat(send.advice()).contains("by 6.0 dB or more");
        assertThat(of(send.remedy().orElseThrow().apply(loud)))
                .extracting(Finding::rule)
                .doesNotContain(Finding.Rule.SEND_CLIPS);
    }

    @Test
    void a_unit_made_for_an_instrument_gets_too_much_of_a_line_and_its_pad_counts() throws Exception {
        UnaryOperator<Rack> instrument =
                rack -> rack.withUnit(rack.units().getFirst().withExpects(Expectation.INSTRUMENT));
        Finding finding = only(i -> i, instrument);
        assertThat(finding.rule()).isEqualTo(Finding.Rule.UNIT_LEVEL);
        // A sine of -18 dBFS is 0 dBu, and an instrument gives -20.
        assertThat(finding.sentence()).contains("gets 0.0 dBu on average, 20.0 dB more");
        assertThat(finding.advice()).contains("\u221220.0 dB");
        assertThat(of(captured(session(i -> i, rack -> instrument
                        .apply(rack)
                        .withUnit(instrument
                                .apply(rack)
                                .units()
                                .getFirst()
                                .withReamplifier(Optional.of(new Reamplifier(20, false, 10_000))))))))
                .isEmpty();
        Session mended = finding.remedy().orElseThrow().apply(session(i -> i, instrument));
        assertThat(of(captured(mended))).isEmpty();
    }

    @Test
    void hum_proposes_the_ground_lift_and_noise_alone_does_not() throws Exception {
        Finding hum = only(timed(timing(320, false, -40, OptionalDouble.of(50), 256)));
        assertThat(hum.sentence()).contains("hums at 50 Hz");
        assertThat(hum.remedy()
                        .orElseThrow()
                        .apply(session(i -> i, rack -> rack))
                        .rack()
                        .units())
                .singleElement()
                .satisfies(unit -> assertThat(unit.reamplifier().orElseThrow().groundLifted())
                        .isTrue());
        assertThat(only(timed(timing(320, false, -40, OptionalDouble.empty(), 256)))
                        .remedy())
                .isEmpty();
    }

    @Test
    void a_port_used_twice_is_told_once_a_port_with_both_users() throws Exception {
        Session session = captured(session(i -> i, rack -> rack));
        Session pair = session.withStrip(TWO, s -> s.withOutput(new Output.ToInterface(2)));
        assertThat(of(pair)).singleElement().satisfies(f -> {
            assertThat(f.rule()).isEqualTo(Finding.Rule.PORT_TWICE);
            assertThat(f.sentence()).contains("Output 3 is used by one \u203a Box and by the pair that two goes to");
        });
        assertThat(of(session.withRack(session.rack().withMonitorPair(2))))
                .singleElement()
                .satisfies(f -> assertThat(f.sentence()).contains("and by the monitor"));
    }

    @Test
    void of_a_bypassed_loop_nothing_is_said() throws Exception {
        assertThat(of(session(
                        i -> i.withBypassed(true)
                                .withInputDb(24)
                                .withLoop(i.processor().loop().withTiming(Optional.empty())),
                        rack -> rack)))
                .isEmpty();
    }
}
