package waterwheel.core.rides;

/**
 * Reads a ride frame by frame: as {@link Ride#at} and {@link Ride#before}, and faster where the frames follow each
 * other, because it remembers where it was. One thread at a time; allocates nothing after construction.
 */
public final class RideReader {
    private final Scale scale;
    private final double offset;
    private final CurveReader curve;
    private final CurveReader offsets;

    public RideReader(Ride ride, Scale scale) {
        this.scale = scale;
        offset = ride.offset();
        curve = new CurveReader(ride.curve());
        offsets = new CurveReader(ride.offsetCurve());
    }

    /**
     * What the control reads at a frame.
     *
     * @param before whether what it comes to there from before is meant, where a curve jumps
     */
    public double read(long frame, boolean before) {
        double written = before ? curve.before(frame, scale) : curve.at(frame, scale);
        double more = before ? offsets.before(frame, Scale.PLAIN) : offsets.at(frame, Scale.PLAIN);
        return scale.offset(written, offset + more);
    }

    /** A curve with the place of the frame that was read last. */
    private static final class CurveReader {
        private final long[] frames;
        private final double[] values;
        private final CurvePoint.Shape[] shapes;
        /** The first point after the frame that was read last. */
        private int next;

        CurveReader(Curve curve) {
            frames = curve.points().stream().mapToLong(CurvePoint::frame).toArray();
            values = curve.points().stream().mapToDouble(CurvePoint::value).toArray();
            shapes = curve.points().stream().map(CurvePoint::shape).toArray(CurvePoint.Shape[]::new);
        }

        private void moveTo(long frame) {
            while (next < frames.length && frames[next] <= frame) {
                next++;
            }
            while (next > 0 && frames[next - 1] > frame) {
                next--;
            }
        }

        double at(long frame, Scale scale) {
            if (frames.length == 0) {
                return 0;
            }
            moveTo(frame);
            if (next == 0) {
                return values[0];
            }
            int from = next - 1;
            if (next == frames.length || frames[from] == frame) {
                return values[from];
            }
            double part = (double) (frame - frames[from]) / (frames[next] - frames[from]);
            return scale.between(values[from], values[next], part, shapes[from]);
        }

        double before(long frame, Scale scale) {
            moveTo(frame);
            boolean jumps = next > 1
                    && frames[next - 1] == frame
                    && (shapes[next - 2] == CurvePoint.Shape.HOLD || scale == Scale.SWITCH);
            return jumps ? values[next - 2] : at(frame, scale);
        }
    }
}
