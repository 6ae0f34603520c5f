package waterwheel.core.session;

/** Range checks of the records' constructors: what fails here is a programmer's mistake. */
final class Ranges {
    private Ranges() {}

    /** Returns the value, with -0.0 made 0.0 so that equal sessions compare as equal. */
    static double checked(String name, double value, double lowest, double highest) {
        if (!(value >= lowest && value <= highest)) {
            throw new IllegalArgumentException(name + ": " + value + " (expected: " + lowest + " to " + highest + ")");
        }
        return value + 0.0;
    }

    static long checked(String name, long value, long lowest) {
        if (value < lowest) {
            throw new IllegalArgumentException(name + ": " + value + " (expected: at least " + lowest + ")");
        }
        return value;
    }
}
