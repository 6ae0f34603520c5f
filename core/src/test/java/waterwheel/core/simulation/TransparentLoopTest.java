package waterwheel.core.simulation;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.captures.CaptureRun;
import waterwheel.core.captures.HardwareSlot;
import waterwheel.core.captures.TimingRun;
import waterwheel.core.edit.RackEdits;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.outboard.LoopAnswer;
import waterwheel.core.processing.HardwareLoop;
import waterwheel.core.rack.Cable;
import waterwheel.core.rack.Driver;
import waterwheel.core.rack.Expectation;
import waterwheel.core.rack.Loop;
import waterwheel.core.rack.LoopTiming;
import waterwheel.core.rack.Rack;
import waterwheel.core.rack.UnitId;
import waterwheel.core.session.Session;
import waterwheel.core.testing.Renders;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.work.Progress;

/** A unit that changes nothing but the time, by a part of a sample, mixed half and half with what it was sent. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class TransparentLoopTest {
    private static final int BLOCK = 256;
    private static final double FRAMES = 123.37;
    private static final SlotId HARDWARE = new SlotId("hw");
    private static final UnitDescription LATE = new UnitDescription(
            "late",
            "Late",
            1,
            Expectation.LINE,
            false,
            FRAMES / Sessions.RATE,
            false,
            Double.NEGATIVE_INFINITY,
            OptionalDouble.empty(),
            Double.NEGATIVE_INFINITY,
            List.of(),
            List.of());

    @TempDir
    Path folder;

    /** What is left of a sine after the dry one is taken away, peak in dBFS. */
    private double leftDb(double hertz, boolean measured) throws Exception {
        Session dry = new Sessions(folder)
                .track("one", "main", Signals.sine(hertz, -18, Sessions.RATE, 1))
                .build();
        UnitId id = new UnitId("u");
        Insert slot = Insert.of(HARDWARE, HardwareLoop.KIND)
                .withMix(0.5)
                .withLoop(new Loop(Optional.of(id), 1, 1, Optional.empty(), Optional.empty()));
        Session wet = dry.withRack(new Rack(
                        Driver.SIMULATED,
                        1,
                        List.of(),
                        List.of(LATE.unit(id)),
                        List.of(new Cable(Optional.of(id), 1, 1))))
                .withStrip(
                        Sessions.id("one"),
                        s -> s.withInserts(
                                List.of(slot.withProcessor(slot.processor().with("alignment", 1)))));
        SimulatedInterface port = new SimulatedInterface(wet.rack(), false, List.of(LATE));
        LoopAnswer answer = TimingRun.run(wet, HardwareSlot.of(wet), port, BLOCK, Progress.NONE)
                .getFirst()
                .answer();
        LoopTiming timing = ((LoopAnswer.Timed) answer).timing();
        double truth = BLOCK + SimulatedUnit.CONVERTER_FRAMES + FRAMES;
        LoopTiming used = measured
                ? timing
                : new LoopTiming(
                        truth,
                        timing.inverted(),
                        timing.gainDb(),
                        timing.noiseDbfs(),
                        timing.humHz(),
                        timing.humDbfs(),
                        timing.confidenceDb(),
                        timing.sampleRateHz(),
                        timing.blockFrames(),
                        timing.device());
        Session timed = RackEdits.timing(wet.channel(Sessions.id("one")), HARDWARE, used)
                .apply(wet);
        Session captured = new CaptureRun(folder, port, BLOCK)
                .run(timed, Set.copyOf(HardwareSlot.of(timed)), any -> {}, Progress.NONE);
        float[][] a = new Renders(folder).mix(dry);
        float[][] b = new Renders(folder).mix(captured);
        double most = 0;
        for (int i = 2_000; i < a[0].length - 2_000; i++) {
            most = Math.max(most, Math.abs((double) a[0][i] - b[0][i]));
        }
        return 20 * Math.log10(most);
    }

    @Test
    void with_its_true_fraction_nothing_of_the_mix_differs_by_more_than_90_dB_below_full_scale() throws Exception {
        for (double hertz : new double[] {100, 1_000, 5_000, 10_000, 16_000}) {
            assertThat(leftDb(hertz, false)).as(hertz + " Hz").isLessThan(-90);
        }
    }

    @Test
    void with_its_measured_fraction_nothing_differs_by_more_than_60_dB_below_full_scale() throws Exception {
        for (double hertz : new double[] {1_000, 10_000, 16_000}) {
            // Half of a sine of -18 dBFS, later by 0.0076 frames at 16 kHz.
            assertThat(leftDb(hertz, true)).as(hertz + " Hz").isLessThan(-60);
        }
    }
}
