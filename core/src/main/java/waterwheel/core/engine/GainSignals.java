package waterwheel.core.engine;

import java.util.HashMap;
import java.util.Map;
import waterwheel.core.path.GainMatrix;
import waterwheel.core.path.Motion;
import waterwheel.core.path.Stage;
import waterwheel.core.path.Step;
import waterwheel.core.session.Channel;

/**
 * Edges through gains. Constant gains that follow each other become one edge; behind one that moves, and behind a placement
 * that mixes sides, a signal of its own begins.
 */
final class GainSignals {
    private final PlanBuilder plan;
    private final boolean played;
    /** Those signals, by what they are. */
    private final Map<SignalId, Integer> known = new HashMap<>();

    /**
     * Makes edges for a plan.
     *
     * @param played whether the plan's shape must not hang on values that move while it is played
     */
    GainSignals(PlanBuilder plan, boolean played) {
        this.plan = plan;
        this.played = played;
    }

    /** What a signal behind a moving gain of a channel is called. */
    static SignalId ridden(Channel channel, String part, boolean aside) {
        return new SignalId(channel.id(), SignalId.Point.RIDDEN, part, aside);
    }

    /**
     * An edge behind one more gain.
     *
     * @param id of the signal that may begin there
     */
    Signal.Edge through(Signal.Edge at, Step.Gain step, SignalId id) {
        return switch (step) {
            case Step.Level level when level.stage() == Stage.PLACEMENT -> placed(at, level.gain(), id);
            case Step.Level level
            when level.stage() == Stage.OUTPUT -> at.times(level.gain().gain(0, 0));
            case Step.Level level -> at.then(level.gain());
            case Step.Moving(Stage _, Motion motion) -> moving(at, motion, id);
        };
    }

    /** An edge behind a gain that moves. */
    Signal.Edge moving(Signal.Edge at, Motion motion, SignalId id) {
        int planes = motion.gains() == 1 ? at.gain().toPlanes() : 2;
        int there = known.computeIfAbsent(
                id,
                any -> plan.add(new Signal.Ridden(id, planes, at, motion), plan.latency(at.from()), plan.silent(at)));
        return Signal.Edge.straight(there, planes);
    }

    /**
     * An edge into a stereo sum through a placement. One that mixes the channel's sides becomes a signal, so that its
     * level can be measured whether or not it sounds.
     */
    private Signal.Edge placed(Signal.Edge before, GainMatrix placement, SignalId id) {
        Signal.Edge edge = before.then(placement);
        boolean alone = played ? placement.fromPlanes() == 2 : edge.gain().mixes();
        if (!alone) {
            return edge;
        }
        int there = known.computeIfAbsent(id, any -> plan.addSum(id, 2, edge));
        return Signal.Edge.straight(there, 2);
    }
}
