package waterwheel.core.demo;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import waterwheel.core.captures.CaptureRun;
import waterwheel.core.captures.HardwareSlot;
import waterwheel.core.captures.TimingRun;
import waterwheel.core.edit.FlowEdits;
import waterwheel.core.edit.RackEdits;
import waterwheel.core.errors.WaterwheelException;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.processing.HardwareLoop;
import waterwheel.core.rack.Cable;
import waterwheel.core.rack.Device;
import waterwheel.core.rack.Driver;
import waterwheel.core.rack.Loop;
import waterwheel.core.rack.LoopTiming;
import waterwheel.core.rack.Rack;
import waterwheel.core.rack.Reamplifier;
import waterwheel.core.rack.Unit;
import waterwheel.core.rack.UnitId;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.simulation.RackPort;
import waterwheel.core.simulation.SimulatedUnits;
import waterwheel.core.work.Progress;

/**
 * Three units in the demo's rack, captured so that it renders at once, and three mistakes: the drive pedal gets ten times
 * the level that it is made for, the springs were timed when the interface ran with shorter blocks, and the leveller is
 * plugged into an output that the monitor is heard on.
 */
final class DemoOutboard {
    private static final SlotId SLOT = new SlotId("hw");
    private static final ChannelId BASS_MIC = new ChannelId("double-bass-mic");
    private static final ChannelId BASS = new ChannelId("double-bass-di");
    private static final ChannelId DULCIMER = new ChannelId("hammered-dulcimer");
    private static final UnitId LEVELLER = new UnitId("leveller");
    private static final UnitId PEDAL = new UnitId("drive");
    private static final UnitId SPRINGS = new UnitId("springs");
    private static final int EARLIER_BLOCK = 128;
    private static final double SPRINGS_OFFSET_FRAMES = -2_365;

    private DemoOutboard() {}

    /** Puts the rack around a session whose files lie in a folder, and captures what it needs. */
    static Session added(Session plain, Path folder, Progress progress) throws WaterwheelException {
        Unit pedal = SimulatedUnits.unit("drive", PEDAL).withReamplifier(Optional.of(new Reamplifier(0, true, 10_000)));
        Session session = plain.withRack(new Rack(
                Driver.SIMULATED,
                2,
                List.of(),
                List.of(SimulatedUnits.unit("leveller", LEVELLER), pedal, SimulatedUnits.unit("springs", SPRINGS)),
                List.of(
                        new Cable(Optional.of(LEVELLER), 4, 3),
                        new Cable(Optional.of(PEDAL), 5, 5),
                        new Cable(Optional.of(SPRINGS), 7, 7))));
        session = slot(session, BASS_MIC, LEVELLER, 4, 3, 4, -4, 1);
        session = slot(session, BASS, PEDAL, 5, 5, 0, -12, 0.35);
        session = slot(session, DULCIMER, SPRINGS, 7, 7, 0, -6, 0.3);
        // Springs answer longest and loudest long after they began; by hand they are set back to their first answer.
        session = FlowEdits.insert(
                        session.channel(DULCIMER),
                        SLOT,
                        i -> i.withProcessor(i.processor().with("offsetFrames", SPRINGS_OFFSET_FRAMES)))
                .apply(session);
        session = timed(session, progress.part(0, 0.2));
        Set<HardwareSlot> all = new LinkedHashSet<>(HardwareSlot.of(session));
        return CaptureRun.of(session, folder).run(session, all, captured -> {}, progress.part(0.2, 1));
    }

    private static Session slot(
            Session session,
            ChannelId channel,
            UnitId unit,
            int output,
            int input,
            double sendDb,
            double returnDb,
            double mix) {
        Insert plain = Insert.of(SLOT, HardwareLoop.KIND);
        Insert insert = plain.withProcessor(plain.processor().with("alignment", mix < 1 ? 1 : 0))
                .withInputDb(sendDb)
                .withOutputDb(returnDb)
                .withMix(mix)
                .withLoop(new Loop(Optional.of(unit), output, input, Optional.empty(), Optional.empty()));
        return session.withStrip(channel, strip -> {
            List<Insert> inserts = new ArrayList<>(strip.inserts());
            inserts.add(insert);
            return strip.withInserts(inserts);
        });
    }

    private static Session timed(Session session, Progress progress) throws WaterwheelException {
        Session out = session;
        for (TimingRun.Found found : TimingRun.run(
                session,
                HardwareSlot.of(session),
                RackPort.fast(session.rack(), session.sampleRateHz()),
                Device.USUAL_BLOCK_FRAMES,
                progress)) {
            Session before = out;
            out = found.noting(before).map(edit -> edit.apply(before)).orElse(before);
        }
        return RackEdits.loop(
                        out.channel(DULCIMER),
                        SLOT,
                        loop -> loop.withTiming(loop.timing().map(DemoOutboard::before)))
                .apply(out);
    }

    /** What was found when the interface held half as much back. */
    private static LoopTiming before(LoopTiming now) {
        return new LoopTiming(
                now.latencyFrames() - (Device.USUAL_BLOCK_FRAMES - EARLIER_BLOCK),
                now.inverted(),
                now.gainDb(),
                now.noiseDbfs(),
                now.humHz(),
                now.humDbfs(),
                now.confidenceDb(),
                now.sampleRateHz(),
                EARLIER_BLOCK,
                now.device());
    }
}
