package waterwheel.core.rack;

/** The level that a unit's input is made for, as the average of music. */
public enum Expectation {
    /** Studio line level. */
    LINE("line, +4 dBu", 4, 10_000),
    /** Line level of home equipment: -10 dBV. */
    HOME("line, \u221210 dBV", -7.8, 10_000),
    /** What an electric instrument gives. */
    INSTRUMENT("instrument, \u221220 dBu", -20, 1_000_000);

    private final String label;
    private final double dbu;
    private final double ohm;

    Expectation(String label, double dbu, double ohm) {
        this.label = label;
        this.dbu = dbu;
        this.ohm = ohm;
    }

    /** The words on screen. */
    public String label() {
        return label;
    }

    /** The average level, in dBu. */
    public double dbu() {
        return dbu;
    }

    /** The input's impedance, in ohm. */
    public double ohm() {
        return ohm;
    }
}
