package waterwheel.core.rack;

import waterwheel.core.units.Ranges;

/**
 * A port of the audio interface.
 *
 * @param number from 1, as printed on the interface
 * @param name the user's; empty for none
 * @param fullScaleDbu the level at the socket that 0 dBFS is, 0 to +30 dBu
 */
public record Port(PortSide side, int number, String name, double fullScaleDbu) {
    /** With it the nominal level of -18 dBFS is 0 dBu. */
    public static final double USUAL_FULL_SCALE_DBU = 18;
    /** The most ports of one side that an interface may have. */
    public static final int MOST = 64;

    public Port {
        if (number < 1 || number > MOST) {
            throw new IllegalArgumentException("number: " + number + " (expected: 1 to " + MOST + ")");
        }
        fullScaleDbu = Ranges.checked("fullScaleDbu", fullScaleDbu, 0, 30);
    }

    /** A port without a name of its own, calibrated as usual. */
    public static Port usual(PortSide side, int number) {
        return new Port(side, number, "", USUAL_FULL_SCALE_DBU);
    }

    /** The words on screen: side and number, and the user's name where there is one. */
    public String label() {
        return side.label() + " " + number + (name.isEmpty() ? "" : " (" + name + ")");
    }

    public Port withName(String value) {
        return new Port(side, number, value, fullScaleDbu);
    }

    public Port withFullScaleDbu(double value) {
        return new Port(side, number, name, value);
    }
}
