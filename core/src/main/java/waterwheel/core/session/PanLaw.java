package waterwheel.core.session;

/**
 * How much a mono source is turned down on each side while it stands in the centre. With position p from -1 (left) to
 * +1 (right) and angle a = (p + 1) π/4 the gains are {@code left = cos(a)^k} and {@code right = sin(a)^k}; the 0 dB law
 * leaves the near side alone and turns the far side down by {@code cos(|p| π/2)}. All laws give 0 dB at the hard sides.
 */
public enum PanLaw {
    ZERO("0 dB", 0),
    MINUS_2_5("\u22122.5 dB", 2.5 / (10 * Math.log10(2))),
    MINUS_3("\u22123 dB", 1),
    MINUS_4_5("\u22124.5 dB", 1.5),
    MINUS_6("\u22126 dB", 2);

    private final String label;
    private final double exponent;

    PanLaw(String label, double exponent) {
        this.label = label;
        this.exponent = exponent;
    }

    /** The law's name on screen: the centre's attenuation. */
    public String label() {
        return label;
    }

    /** Linear gain of the left side, 0 to 1, for a position from -1 to +1. */
    public double left(double position) {
        if (this == ZERO) {
            return position <= 0 ? 1 : farSide(position);
        }
        return position >= 1 ? 0 : Math.pow(Math.cos(angle(position)), exponent);
    }

    /** Linear gain of the right side, 0 to 1, for a position from -1 to +1. */
    public double right(double position) {
        return left(-position);
    }

    private static double farSide(double position) {
        return position >= 1 ? 0 : Math.cos(position * Math.PI / 2);
    }

    private static double angle(double position) {
        return (position + 1) * Math.PI / 4;
    }
}
