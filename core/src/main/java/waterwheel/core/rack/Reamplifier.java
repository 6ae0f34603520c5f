package waterwheel.core.rack;

import waterwheel.core.units.Ranges;

/**
 * A box between a line output and an instrument's input.
 *
 * @param padDb by how much it turns down, 0 to 60 dB
 * @param groundLifted whether the ground of the cable is cut, against hum
 * @param ohm the impedance that the unit sees, 100 ohm to 100 kohm
 */
public record Reamplifier(double padDb, boolean groundLifted, double ohm) {
    /** One as it comes out of its box. */
    public static final Reamplifier USUAL = new Reamplifier(20, false, 10_000);

    public Reamplifier {
        padDb = Ranges.checked("padDb", padDb, 0, 60);
        ohm = Ranges.checked("ohm", ohm, 100, 100_000);
    }
}
