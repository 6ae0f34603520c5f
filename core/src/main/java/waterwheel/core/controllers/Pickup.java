package waterwheel.core.controllers;

import java.util.HashMap;
import java.util.Map;

/**
 * Has parts take controls up where they meet them, so that nothing jumps: a part moves its control once it stands where
 * the control stands, or passes by there, and from then on until the control goes elsewhere by another hand. One thread at
 * a time.
 */
public final class Pickup {
    /** As near as this to each other, both stand in the same place: a little more than a step of 7 bits. */
    private static final double NEAR = 0.01;

    private final Map<ControllerPart, State> states = new HashMap<>();

    /**
     * What is known of a part.
     *
     * @param place where it stands
     * @param holds whether it moves its control
     */
    private record State(double place, boolean holds) {}

    /**
     * Tells whether a part that is moved moves its control.
     *
     * @param control where the control stands, 0 to 1
     * @param to where the part is moved to
     */
    public boolean takes(ControllerPart part, double control, double to) {
        State before = states.get(part);
        boolean held = before != null && before.holds() && Math.abs(control - before.place()) <= NEAR;
        boolean meets =
                Math.abs(control - to) <= NEAR || (before != null && (before.place() - control) * (to - control) < 0);
        states.put(part, new State(to, held || meets));
        return held || meets;
    }

    /** Forgets what a part held, because it is meant for another control. */
    public void forget(ControllerPart part) {
        states.remove(part);
    }
}
