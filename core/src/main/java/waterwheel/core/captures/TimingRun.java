package waterwheel.core.captures;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import waterwheel.core.edit.Edit;
import waterwheel.core.edit.RackEdits;
import waterwheel.core.errors.DeviceException;
import waterwheel.core.inserts.Insert;
import waterwheel.core.outboard.LoopAnswer;
import waterwheel.core.outboard.LoopAsk;
import waterwheel.core.outboard.LoopTimer;
import waterwheel.core.ports.AudioPort;
import waterwheel.core.rack.Loop;
import waterwheel.core.rack.LoopTiming;
import waterwheel.core.session.Session;
import waterwheel.core.work.Progress;

/** Times the loops of hardware slots, all at once. */
public final class TimingRun {
    /** Further apart than this the two sides of a stereo loop are not one. */
    private static final double SIDES_FRAMES = 0.5;

    private TimingRun() {}

    /**
     * What was found of a slot.
     *
     * @param answer of the first side; where a side does not answer, of that one
     * @param sentence what is wrong; empty where nothing is
     */
    public record Found(HardwareSlot slot, LoopAnswer answer, String sentence) {
        /** The edit that notes the timing; empty where there is none, or the slot is gone meanwhile. */
        public Optional<Edit> noting(Session session) {
            return answer instanceof LoopAnswer.Timed(LoopTiming timing, var _, var _, var _)
                            && HardwareSlot.of(session).contains(slot)
                    ? Optional.of(RackEdits.timing(session.channel(slot.channel()), slot.slot(), timing))
                    : Optional.empty();
        }
    }

    /**
     * Times some slots.
     *
     * @param port closed; opened and closed here
     * @param block how many frames it is given at a time, which a loop's time hangs on
     * @return what was found, by slot; a slot without ports that the interface has is told of
     * @throws DeviceException if the port refuses
     * @throws java.util.concurrent.CancellationException if the progress says stop
     */
    public static List<Found> run(
            Session session, List<HardwareSlot> slots, AudioPort port, int block, Progress progress)
            throws DeviceException {
        port.open(session.sampleRateHz(), block);
        try {
            Map<HardwareSlot, List<LoopAsk>> asked = new LinkedHashMap<>();
            List<LoopAsk> all = new ArrayList<>();
            for (HardwareSlot slot : slots) {
                List<LoopAsk> asks = asks(session, slot, port);
                asked.put(slot, asks);
                all.addAll(asks);
            }
            List<LoopAnswer> answers =
                    all.isEmpty() ? List.of() : new LoopTimer(port, session.sampleRateHz(), block).time(all, progress);
            List<Found> found = new ArrayList<>();
            int at = 0;
            for (Map.Entry<HardwareSlot, List<LoopAsk>> one : asked.entrySet()) {
                List<LoopAsk> asks = one.getValue();
                found.add(found(session, one.getKey(), asks, answers.subList(at, at + asks.size()), port));
                at += asks.size();
            }
            return found;
        } finally {
            port.close();
        }
    }

    private static List<LoopAsk> asks(Session session, HardwareSlot slot, AudioPort port) {
        Insert insert = slot.insert(session);
        Loop loop = insert.processor().loop();
        int planes = session.channel(slot.channel()).planes();
        List<LoopAsk> asks = new ArrayList<>();
        boolean there = loop.within(port.inputs(), port.outputs(), planes);
        for (int p = 0; there && p < planes; p++) {
            asks.add(new LoopAsk(loop.sendPort() + p, loop.returnPort() + p));
        }
        return asks;
    }

    private static Found found(
            Session session, HardwareSlot slot, List<LoopAsk> asks, List<LoopAnswer> answers, AudioPort port) {
        if (asks.isEmpty()) {
            Loop loop = slot.insert(session).processor().loop();
            return new Found(
                    slot,
                    new LoopAnswer.Nothing(),
                    loop.patched()
                            ? "The " + port.name() + " has " + port.outputs() + " outputs and " + port.inputs()
                                    + " inputs: choose others for " + slot.label(session) + "."
                            : slot.label(session) + " is not patched: choose an output and an input for it.");
        }
        for (int i = 0; i < asks.size(); i++) {
            if (!(answers.get(i) instanceof LoopAnswer.Timed)) {
                return new Found(slot, answers.get(i), answers.get(i).inWords(asks.get(i)));
            }
        }
        LoopTiming first = timing(answers.getFirst());
        LoopTiming last = timing(answers.getLast());
        String apart = "";
        if (Math.abs(first.latencyFrames() - last.latencyFrames()) > SIDES_FRAMES) {
            apart = "Left and right come back at different times: are they from one unit?";
        } else if (first.inverted() != last.inverted()) {
            apart = "Left and right come back with opposite polarity: one cable or one side of the unit turns it.";
        }
        return new Found(slot, answers.getFirst(), apart);
    }

    private static LoopTiming timing(LoopAnswer answer) {
        return ((LoopAnswer.Timed) answer).timing();
    }
}
