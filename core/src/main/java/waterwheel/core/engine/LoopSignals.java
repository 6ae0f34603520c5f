package waterwheel.core.engine;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import waterwheel.core.inserts.Insert;
import waterwheel.core.path.Motion;
import waterwheel.core.path.Stage;
import waterwheel.core.processing.HardwareLoop;
import waterwheel.core.rack.Capture;
import waterwheel.core.rack.Loop;
import waterwheel.core.session.Channel;
import waterwheel.core.session.Clip;
import waterwheel.core.session.Session;
import waterwheel.core.units.Decibels;

/** The signals of hardware slots in a plan that comes to be: what is sent, what comes back, and the sum of both ways. */
final class LoopSignals {
    private final PlanBuilder plan;
    private final Session session;
    private final LiveLoops loops;
    private final boolean played;
    private final boolean stem;
    private final GainSignals gains;

    /**
     * Makes the signals of a plan.
     *
     * @param loops which of them run through an interface
     * @param played whether gains of 0 keep their edges, because they may move
     * @param stem whether only some tracks sound, of which a loop may have recordings of its own
     */
    LoopSignals(PlanBuilder plan, Session session, LiveLoops loops, boolean played, boolean stem, GainSignals gains) {
        this.stem = stem;
        this.gains = gains;
        this.plan = plan;
        this.session = session;
        this.loops = loops;
        this.played = played;
    }

    /**
     * What comes back of what is sent, beside what does not leave. While it is bypassed, all is as late as ever. A loop of
     * which nothing is known passes nothing.
     *
     * @param before what the slot gets
     * @param out the same with its send gain
     */
    Signal.Edge through(Channel channel, Signal.Edge before, Signal.Edge out, Insert insert, boolean aside) {
        int planes = channel.planes();
        String slot = insert.id().value();
        int sent = plan.addSum(new SignalId(channel.id(), SignalId.Point.SENT, slot, aside), planes, out);
        plan.note(channel.id(), aside, Stage.SENT, slot, Signal.Edge.straight(sent, planes));
        int back = returned(channel, insert, sent, aside);
        plan.note(channel.id(), aside, Stage.RETURNED, slot, Signal.Edge.straight(back, planes));
        int rest = HardwareLoop.fineFrames(insert.processor());
        if (rest > 0) {
            Insert waiting = new Insert(
                    insert.id(),
                    insert.processor().withLoop(insert.processor().loop().withCapture(Optional.empty())),
                    false,
                    0,
                    0,
                    1);
            back = plan.add(
                    new Signal.Processed(
                            new SignalId(channel.id(), SignalId.Point.ALIGNED, slot, aside),
                            planes,
                            Signal.Edge.straight(back, planes),
                            OptionalInt.empty(),
                            waiting),
                    plan.latency(back) + rest,
                    plan.silent(Signal.Edge.straight(back, planes)));
        }
        List<Signal.Edge> both = ways(channel, before, Signal.Edge.straight(back, planes), insert, aside);
        return Signal.Edge.straight(
                plan.addSum(new SignalId(channel.id(), SignalId.Point.INSERT, slot, aside), planes, both), planes);
    }

    /** What came back and what went by, each as much of it as is heard. */
    private List<Signal.Edge> ways(
            Channel channel, Signal.Edge before, Signal.Edge back, Insert insert, boolean aside) {
        double sign = HardwareLoop.sign(insert.processor());
        Motion came = new Motion.Way(insert, true, sign);
        if (!came.rides().isEmpty()) {
            String slot = insert.id().value();
            return List.of(
                    gains.moving(back, came, GainSignals.ridden(channel, "back " + slot, aside)),
                    gains.moving(
                            before,
                            new Motion.Way(insert, false, 1),
                            GainSignals.ridden(channel, "by " + slot, aside)));
        }
        double wet = insert.bypassed() ? 0 : Decibels.toFactor(insert.outputDb()) * insert.mix();
        List<Signal.Edge> both = new ArrayList<>();
        both.add(back.times(wet * sign));
        both.add(before.times(insert.bypassed() ? 1 : 1 - insert.mix()));
        if (!played) {
            both.removeIf(edge -> edge.gain().silent());
        }
        return both;
    }

    private int returned(Channel channel, Insert insert, int sent, boolean aside) {
        int planes = channel.planes();
        Loop loop = insert.processor().loop();
        SignalId id =
                new SignalId(channel.id(), SignalId.Point.RETURNED, insert.id().value(), aside);
        int late = HardwareLoop.wholeFrames(insert.processor());
        if (!aside && loops.live(channel, insert)) {
            return plan.add(
                    new Signal.Returned(id, planes, sent, loop.sendPort(), loop.returnPort()),
                    plan.latency(sent) + late,
                    false);
        }
        // Of the share of a stem that is silent nothing comes back.
        boolean sounds = played || !plan.silent(Signal.Edge.straight(sent, planes));
        Optional<Capture> plays = stem && !aside ? loop.share().or(loop::capture) : loop.capture();
        List<Clip> recorded = plays.filter(any -> sounds)
                .map(capture -> List.of(recorded(capture, late)))
                .orElse(List.of());
        return plan.add(new Signal.Source(id, planes, recorded), 0, !sounds);
    }

    /** A capture on the song's line: what came back of the song's first frame lies at 0. */
    private Clip recorded(Capture capture, int late) {
        long held = session.source(capture.source()).frames() - late;
        return new Clip(capture.source(), 0, late, Math.max(1, held), 0);
    }
}
