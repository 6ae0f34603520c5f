package waterwheel.core.simulation;

import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import waterwheel.core.rack.Expectation;
import waterwheel.core.rack.Knob;
import waterwheel.core.rack.Reamplifier;
import waterwheel.core.rack.Unit;
import waterwheel.core.rack.UnitId;

/**
 * A simulated unit.
 *
 * @param key what a rack knows it by
 * @param name on its front
 * @param channels how many it treats side by side, 1 or 2
 * @param expects the level that its input is made for
 * @param reamplified whether it is sold with a re-amplifier before its input
 * @param latencySeconds how long a signal is on its way
 * @param inverted whether it turns the polarity
 * @param noiseDbu what it gives out of nothing, RMS as a sine's
 * @param humHz of the mains; empty for one that does not hum
 * @param humDbu peak level of the hum's fundamental, where nothing lifts its ground
 * @param knobs as they come from the works
 * @param parts from its input to its output
 */
record UnitDescription(
        String key,
        String name,
        int channels,
        Expectation expects,
        boolean reamplified,
        double latencySeconds,
        boolean inverted,
        double noiseDbu,
        OptionalDouble humHz,
        double humDbu,
        List<Knob> knobs,
        List<UnitPart> parts) {
    UnitDescription {
        knobs = List.copyOf(knobs);
        parts = List.copyOf(parts);
    }

    /** What passes all as it is, without noise and after no time. */
    static final UnitDescription CABLE = new UnitDescription(
            "",
            "Cable",
            2,
            Expectation.LINE,
            false,
            0,
            false,
            Double.NEGATIVE_INFINITY,
            OptionalDouble.empty(),
            Double.NEGATIVE_INFINITY,
            List.of(),
            List.of());

    Unit unit(UnitId id) {
        return new Unit(
                id,
                name,
                channels,
                expects,
                reamplified ? Optional.of(Reamplifier.USUAL) : Optional.empty(),
                knobs,
                key,
                "");
    }
}
