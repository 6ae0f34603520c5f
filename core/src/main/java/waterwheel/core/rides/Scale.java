package waterwheel.core.rides;

/** In what a control's line is straight, and how an offset lies on top of it. */
public enum Scale {
    /** In the control's own unit, such as dB; offsets are added in it. */
    PLAIN,
    /** In octaves, for frequencies; offsets are octaves. */
    OCTAVES,
    /** Holds until the next point: 0 off, 1 on, told apart at a half; an offset does nothing. */
    SWITCH;

    /** The value a part of the way from one to another. */
    private double between(double from, double to, double part) {
        return switch (this) {
            case PLAIN -> from + (to - from) * part;
            case OCTAVES -> from * Math.pow(to / from, part);
            case SWITCH -> from;
        };
    }

    /** The value a part of the way along a segment of a shape. */
    double between(double from, double to, double part, CurvePoint.Shape shape) {
        return switch (shape) {
            case HOLD -> from;
            case LINE -> between(from, to, part);
            case SMOOTH -> between(from, to, (1 - Math.cos(Math.PI * part)) / 2);
        };
    }

    /** A value with an offset on top of it. */
    public double offset(double value, double by) {
        return switch (this) {
            case PLAIN -> value + by;
            case OCTAVES -> by == 0 ? value : value * Math.pow(2, by);
            case SWITCH -> value;
        };
    }

    /** The offset that brings one value to another. */
    public double from(double value, double to) {
        return switch (this) {
            case PLAIN -> to - value;
            case OCTAVES -> Math.log(to / value) / Math.log(2);
            case SWITCH -> 0;
        };
    }
}
