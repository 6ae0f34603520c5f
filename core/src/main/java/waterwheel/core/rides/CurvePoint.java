package waterwheel.core.rides;

import waterwheel.core.units.Ranges;

/**
 * A point of a curve.
 *
 * @param frame where, counted from where the curve's owner begins, 0 or later
 * @param value in the unit of the parameter that the curve moves
 * @param shape how the curve goes on to the next point
 */
public record CurvePoint(long frame, double value, Shape shape) {
    /** How a curve gets from one point to the next. */
    public enum Shape {
        /** Stays until the next point, and is there at once. */
        HOLD("hold"),
        /** A straight line in the parameter's unit. */
        LINE("line"),
        /** Half a cosine: leaves and arrives level. */
        SMOOTH("smooth");

        private final String label;

        Shape(String label) {
            this.label = label;
        }

        /** The word on screen and in the session file. */
        public String label() {
            return label;
        }
    }

    public CurvePoint {
        frame = Ranges.checked("frame", frame, 0);
        if (!Double.isFinite(value)) {
            throw new IllegalArgumentException("value: " + value + " (expected: a number)");
        }
    }
}
