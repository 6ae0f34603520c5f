package waterwheel.core.rides;

/**
 * The curve of a control with what lies on top of it. While it is not suspended, what it says stands in place of the
 * control's own value.
 *
 * @param curve as it is written, in the control's unit
 * @param offset on top of it all along, in the unit of the control's scale
 * @param offsetCurve on top of both
 * @param suspended whether the control stands where it stands, and the curve waits
 */
public record Ride(Curve curve, double offset, Curve offsetCurve, boolean suspended) {
    /** By hand and in clips offsets go no further, in dB, octaves or whatever the control has. */
    public static final double MOST_OFFSET = 200;

    public Ride {
        if (!Double.isFinite(offset)) {
            throw new IllegalArgumentException("offset: " + offset + " (expected: a number)");
        }
    }

    /** A curve with nothing on top. */
    public static Ride of(Curve curve) {
        return new Ride(curve, 0, Curve.NONE, false);
    }

    /** Whether it moves the control now. */
    public boolean active() {
        return !suspended && !curve.isNone();
    }

    /** What the control reads at a frame. */
    public double at(long frame, Scale scale) {
        return scale.offset(curve.at(frame, scale), offset + offsetCurve.at(frame));
    }

    /** What it comes to at a frame from before it. */
    public double before(long frame, Scale scale) {
        return scale.offset(curve.before(frame, scale), offset + offsetCurve.before(frame, Scale.PLAIN));
    }

    /** The frame before which another ride says the same; {@link Long#MAX_VALUE} where it always does. */
    public long sameUntil(Ride other) {
        if (!active() && !other.active()) {
            return Long.MAX_VALUE;
        }
        return active() != other.active() || offset != other.offset
                ? 0
                : Math.min(curve.sameUntil(other.curve), offsetCurve.sameUntil(other.offsetCurve));
    }

    /** All that the ride says of a control whose values add, as one curve. */
    public Curve whole() {
        return curve.mapped(value -> value + offset).plus(offsetCurve);
    }

    public Ride withCurve(Curve value) {
        return new Ride(value, offset, offsetCurve, suspended);
    }

    public Ride withOffset(double value) {
        return new Ride(curve, value, offsetCurve, suspended);
    }

    public Ride withOffsetCurve(Curve value) {
        return new Ride(curve, offset, value, suspended);
    }

    public Ride withSuspended(boolean value) {
        return new Ride(curve, offset, offsetCurve, value);
    }
}
