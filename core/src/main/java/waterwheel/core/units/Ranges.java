package waterwheel.core.units;

/** Range checks of records: what fails here is a programmer's mistake. */
public final class Ranges {
    private Ranges() {}

    /** Returns the value, with -0.0 made 0.0 so that equal sessions compare as equal. */
    public static double checked(String name, double value, double lowest, double highest) {
        if (!(value >= lowest && value <= highest)) {
            throw new IllegalArgumentException(name + ": " + value + " (expected: " + lowest + " to " + highest + ")");
        }
        return value + 0.0;
    }

    /** Returns the value if it is at least the lowest. */
    public static long checked(String name, long value, long lowest) {
        if (value < lowest) {
            throw new IllegalArgumentException(name + ": " + value + " (expected: at least " + lowest + ")");
        }
        return value;
    }
}
