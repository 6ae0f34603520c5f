package waterwheel.core.rides;

/**
 * Reads a ride frame by frame: as {@link Ride#at} and {@link Ride#before}, and faster where the frames follow each
 * other, because it remembers the segment that it was in. One thread at a time; allocates nothing after construction.
 */
public final class RideReader {
    private final Scale scale;
    private final double offset;
    private final CurveReader curve;
    private final CurveReader offsets;

    public RideReader(Ride ride, Scale scale) {
        this.scale = scale;
        offset = ride.offset();
        curve = new CurveReader(ride.curve(), scale);
        offsets = new CurveReader(ride.offsetCurve(), Scale.PLAIN);
    }

    /**
     * What the control reads at a frame.
     *
     * @param before whether what it comes to there from before is meant, where a curve jumps
     */
    public double read(long frame, boolean before) {
        return scale.offset(curve.read(frame, before), offset + offsets.read(frame, before));
    }

    /**
     * What the control reads at growing frames.
     *
     * @param values filled in, as many as are counted
     */
    public void read(long[] growing, int count, boolean before, double[] values) {
        curve.read(growing, count, before, values);
        if (offset == 0 && offsets.isNone()) {
            return;
        }
        for (int i = 0; i < count; i++) {
            values[i] = scale.offset(values[i], offset + offsets.read(growing[i], before));
        }
    }

    /** A curve with the segment of the frame that was read last. */
    private static final class CurveReader {
        private final long[] frames;
        private final double[] values;
        private final CurvePoint.Shape[] shapes;
        private final Scale scale;
        /** The segment: from its first frame to before its end, with what it goes from and to, and in how many frames. */
        private long begin;

        private long end;
        private double from;
        private double to;
        private double length;
        private CurvePoint.Shape shape = CurvePoint.Shape.HOLD;
        private boolean straight;
        /** What the segment before comes to where this one begins. */
        private double arrived;

        CurveReader(Curve curve, Scale scale) {
            frames = curve.points().stream().mapToLong(CurvePoint::frame).toArray();
            values = curve.points().stream().mapToDouble(CurvePoint::value).toArray();
            shapes = curve.points().stream().map(CurvePoint::shape).toArray(CurvePoint.Shape[]::new);
            this.scale = scale;
            enter(0);
        }

        double read(long frame, boolean before) {
            if (frame < begin || frame >= end) {
                enter(next(frame));
            }
            if (before && frame == begin) {
                return arrived;
            }
            double part = (frame - begin) / length;
            return straight ? from + (to - from) * part : scale.between(from, to, part, shape);
        }

        void read(long[] growing, int count, boolean before, double[] read) {
            int i = 0;
            while (i < count) {
                read[i] = read(growing[i], before);
                i++;
                int until = i;
                while (straight && until < count && growing[until] < end) {
                    until++;
                }
                line(growing, i, until, read);
                i = until;
            }
        }

        private void line(long[] growing, int first, int until, double[] read) {
            double way = to - from;
            for (int i = first; i < until; i++) {
                read[i] = from + way * ((growing[i] - begin) / length);
            }
        }

        boolean isNone() {
            return frames.length == 0;
        }

        /** The number of the first point after a frame. */
        private int next(long frame) {
            int low = 0;
            int high = frames.length;
            while (low < high) {
                int middle = (low + high) >>> 1;
                if (frames[middle] <= frame) {
                    low = middle + 1;
                } else {
                    high = middle;
                }
            }
            return low;
        }

        /** Goes into the segment before a point; behind the last one where there is none. */
        private void enter(int next) {
            int at = next - 1;
            boolean outside = next == 0 || next == frames.length;
            begin = next == 0 ? Long.MIN_VALUE / 2 : frames[at];
            end = next == frames.length ? Long.MAX_VALUE : frames[next];
            from = frames.length == 0 ? 0 : values[Math.max(0, at)];
            to = outside ? from : values[next];
            length = outside ? 1 : end - begin;
            shape = outside ? CurvePoint.Shape.HOLD : shapes[at];
            straight = shape == CurvePoint.Shape.LINE && scale == Scale.PLAIN;
            boolean jumps = next > 1 && (shapes[at - 1] == CurvePoint.Shape.HOLD || scale == Scale.SWITCH);
            arrived = jumps ? values[at - 1] : from;
        }
    }
}
