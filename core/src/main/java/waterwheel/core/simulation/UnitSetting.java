package waterwheel.core.simulation;

import java.util.List;
import java.util.Optional;
import waterwheel.core.rack.Knob;

/**
 * A number in a unit's description: one that stands, or one that a knob sets in a straight line from its least to its
 * most.
 *
 * @param knob the name of the knob; empty for a number that stands
 * @param from where the knob is at its least; without a knob the number
 * @param to where it is at its most
 */
record UnitSetting(Optional<String> knob, double from, double to) {
    static UnitSetting of(double value) {
        return new UnitSetting(Optional.empty(), value, value);
    }

    double value(List<Knob> knobs) {
        return knobs.stream()
                .filter(one -> knob.isPresent() && one.name().equals(knob.get()))
                .findFirst()
                .map(one -> from + (to - from) * (one.value() - one.least()) / (one.most() - one.least()))
                .orElse(from);
    }
}
