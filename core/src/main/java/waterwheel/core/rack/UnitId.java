package waterwheel.core.rack;

/** What tells one unit of a rack from its others. */
public record UnitId(String value) {
    public UnitId {
        if (!value.matches("[A-Za-z0-9.-]{1,80}")) {
            throw new IllegalArgumentException("value: '" + value + "' (expected: letters, digits, dots, dashes)");
        }
    }

    @Override
    public String toString() {
        return value;
    }
}
