package waterwheel.core.session;

/**
 * How much a mono source is turned down on each side while it stands in the centre. With position p from -1 (left) to
 * +1 (right) and angle a = (p + 1) π/4 the gains are {@code left = cos(a)^k} and {@code right = sin(a)^k}; the 0 dB law
 * leaves the near side alone and turns the far side down by {@code cos(|p| π/2)}. All laws give 0 dB at the hard sides.
 */
public enum PanLaw {
    ZERO("0 dB"),
    MINUS_2_5("\u22122.5 dB"),
    MINUS_3("\u22123 dB"),
    MINUS_4_5("\u22124.5 dB"),
    MINUS_6("\u22126 dB");

    /** The k of the law with 2.5 dB. */
    private static final double TWO_AND_A_HALF_DB = 2.5 / (10 * Math.log10(2));

    private final String label;

    PanLaw(String label) {
        this.label = label;
    }

    /** The law's name on screen: the centre's attenuation. */
    public String label() {
        return label;
    }

    /**
     * Finds linear gains of the left side, 0 to 1; allocates nothing.
     *
     * @param positions from -1 to 1
     * @param gains filled in: {@code [0 .. count)}; may be the positions
     */
    void left(double[] positions, int count, double[] gains) {
        gains(positions, 1, count, gains);
    }

    /** Likewise of the right side. */
    void right(double[] positions, int count, double[] gains) {
        gains(positions, -1, count, gains);
    }

    /** @param side 1 for left, -1 for right */
    private void gains(double[] positions, double side, int count, double[] gains) {
        if (this == ZERO) {
            for (int i = 0; i < count; i++) {
                gains[i] = cosine(Math.max(0, side * positions[i]) * (Math.PI / 2));
            }
        } else {
            for (int i = 0; i < count; i++) {
                gains[i] = cosine((side * positions[i] + 1) * (Math.PI / 4));
            }
            raise(gains, count);
        }
    }

    /** Cosines to the power k. */
    private void raise(double[] cosines, int count) {
        switch (this) {
            case ZERO, MINUS_3 -> {}
            case MINUS_2_5 -> {
                for (int i = 0; i < count; i++) {
                    cosines[i] = Math.pow(cosines[i], TWO_AND_A_HALF_DB);
                }
            }
            case MINUS_4_5 -> {
                for (int i = 0; i < count; i++) {
                    cosines[i] *= Math.sqrt(cosines[i]);
                }
            }
            case MINUS_6 -> {
                for (int i = 0; i < count; i++) {
                    cosines[i] *= cosines[i];
                }
            }
        }
    }

    /**
     * The series of the cosine, of an angle from 0 to π/2; unlike the library's it is compiled to find several at a time.
     * Its last term is the one in the 18th power, so that it is at most 4e-15 too small, and exactly 0 at π/2.
     */
    private static double cosine(double angle) {
        double z = angle * angle;
        double sum = Math.fma(-1 / 6_402_373_705_728_000.0, z, 1 / 20_922_789_888_000.0);
        sum = Math.fma(sum, z, -1 / 87_178_291_200.0);
        sum = Math.fma(sum, z, 1 / 479_001_600.0);
        sum = Math.fma(sum, z, -1 / 3_628_800.0);
        sum = Math.fma(sum, z, 1 / 40_320.0);
        sum = Math.fma(sum, z, -1 / 720.0);
        sum = Math.fma(sum, z, 1 / 24.0);
        sum = Math.fma(sum, z, -0.5);
        return Math.max(0, Math.fma(sum, z, 1));
    }
}
