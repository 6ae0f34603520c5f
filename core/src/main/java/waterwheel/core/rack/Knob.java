package waterwheel.core.rack;

import waterwheel.core.units.Ranges;

/**
 * Where a knob of a unit stands, to be set again another day.
 *
 * @param name as printed on the unit
 * @param unit of its scale; empty for one of plain numbers
 * @param value in the scale's unit
 */
public record Knob(String name, double least, double most, String unit, double value) {
    /** What a scale may reach. */
    public static final double MOST = 1e6;

    public Knob {
        if (!(least < most)) {
            throw new IllegalArgumentException("least: " + least + " (expected: below " + most + ")");
        }
        value = Ranges.checked("value", value, least, most);
    }

    public Knob withValue(double other) {
        return new Knob(name, least, most, unit, other);
    }
}
