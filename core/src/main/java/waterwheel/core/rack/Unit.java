package waterwheel.core.rack;

import java.util.List;
import java.util.Optional;

/**
 * A unit in the rack.
 *
 * @param channels how many it treats side by side, 1 or 2
 * @param expects what its input is made for
 * @param reamplifier what stands between the interface and its input, if anything does
 * @param knobs in the order of its front
 * @param simulation the simulated unit that it is; empty for one of metal
 * @param notes whatever else there is to remember
 */
public record Unit(
        UnitId id,
        String name,
        int channels,
        Expectation expects,
        Optional<Reamplifier> reamplifier,
        List<Knob> knobs,
        String simulation,
        String notes) {
    public Unit {
        if (name.isBlank()) {
            throw new IllegalArgumentException("name: blank (expected: a name)");
        }
        if (channels != 1 && channels != 2) {
            throw new IllegalArgumentException("channels: " + channels + " (expected: 1 or 2)");
        }
        knobs = List.copyOf(knobs);
    }

    /** By how much what stands before its input turns down, in dB. */
    public double padDb() {
        return reamplifier.map(Reamplifier::padDb).orElse(0.0);
    }

    public Unit withName(String value) {
        return new Unit(id, value, channels, expects, reamplifier, knobs, simulation, notes);
    }

    public Unit withExpects(Expectation value) {
        return new Unit(id, name, channels, value, reamplifier, knobs, simulation, notes);
    }

    public Unit withReamplifier(Optional<Reamplifier> value) {
        return new Unit(id, name, channels, expects, value, knobs, simulation, notes);
    }

    public Unit withKnobs(List<Knob> value) {
        return new Unit(id, name, channels, expects, reamplifier, value, simulation, notes);
    }

    public Unit withNotes(String value) {
        return new Unit(id, name, channels, expects, reamplifier, knobs, simulation, value);
    }
}
