package waterwheel.core.rack;

import java.util.Optional;

/**
 * How a unit is plugged into the simulated interface. What a slot believes may differ from it, as in a real room.
 *
 * @param unit what lies between; empty for a cable from port to port
 * @param output the output that the (first) channel of the unit is fed by
 * @param input the input that it feeds
 */
public record Cable(Optional<UnitId> unit, int output, int input) {
    public Cable {
        if (output < 1 || output > Port.MOST || input < 1 || input > Port.MOST) {
            throw new IllegalArgumentException(
                    "ports: " + output + " to " + input + " (expected: 1 to " + Port.MOST + ")");
        }
    }
}
