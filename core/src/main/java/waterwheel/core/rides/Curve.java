package waterwheel.core.rides;

import java.util.ArrayList;
import java.util.List;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.DoubleUnaryOperator;
import java.util.stream.Stream;

/**
 * A value that changes over time. Before its first point it has that point's value, after its last point that one's.
 *
 * @param points by frame, each later than the one before; none for a curve that is {@link #NONE}
 */
public record Curve(List<CurvePoint> points) {
    /** No curve: whatever it would be added to stays as it is. */
    public static final Curve NONE = new Curve(List.of());

    /** Frames between the lines that follow a smooth segment. */
    static final long FOLLOWED = 480;

    public Curve {
        points = List.copyOf(points);
        for (int i = 1; i < points.size(); i++) {
            if (points.get(i).frame() <= points.get(i - 1).frame()) {
                throw new IllegalArgumentException(
                        "points: frame " + points.get(i).frame() + " after "
                                + points.get(i - 1).frame() + " (expected: growing frames)");
            }
        }
    }

    /** The frames of all points of several curves, growing, each once. */
    public static long[] frames(Stream<Curve> curves) {
        return curves.flatMap(curve -> curve.points().stream())
                .mapToLong(CurvePoint::frame)
                .sorted()
                .distinct()
                .toArray();
    }

    /** Whether a value is held up to a point somewhere, where the curve may jump. */
    public boolean holds() {
        return points.stream().anyMatch(point -> point.shape() == CurvePoint.Shape.HOLD);
    }

    public boolean isNone() {
        return points.isEmpty();
    }

    /** The value at a frame, in the parameter's unit, straight in that unit; 0 for no curve. */
    public double at(long frame) {
        return at(frame, Scale.PLAIN);
    }

    /** The value at a frame, in the parameter's unit; 0 for no curve. */
    public double at(long frame, Scale scale) {
        if (points.isEmpty()) {
            return 0;
        }
        int next = firstAfter(frame);
        if (next == 0) {
            return points.getFirst().value();
        }
        CurvePoint from = points.get(next - 1);
        if (next == points.size() || from.frame() == frame) {
            return from.value();
        }
        CurvePoint to = points.get(next);
        double part = (double) (frame - from.frame()) / (to.frame() - from.frame());
        return scale.between(from.value(), to.value(), part, from.shape());
    }

    /** The value that a curve comes to at a frame from before it: another one than {@link #at} where it jumps there. */
    public double before(long frame, Scale scale) {
        int next = firstAfter(frame);
        boolean jumps = next > 1
                && points.get(next - 1).frame() == frame
                && (points.get(next - 2).shape() == CurvePoint.Shape.HOLD || scale == Scale.SWITCH);
        return jumps ? points.get(next - 2).value() : at(frame, scale);
    }

    /** The frame before which another curve says the same; {@link Long#MAX_VALUE} for an equal one. */
    public long sameUntil(Curve other) {
        if (equals(other)) {
            return Long.MAX_VALUE;
        }
        int alike = 0;
        while (alike < Math.min(points.size(), other.points.size())
                && points.get(alike).equals(other.points.get(alike))) {
            alike++;
        }
        if (alike == 0) {
            return 0;
        }
        CurvePoint last = points.get(alike - 1);
        return last.shape() == CurvePoint.Shape.HOLD ? Math.min(frame(alike), other.frame(alike)) : last.frame();
    }

    private long frame(int point) {
        return point < points.size() ? points.get(point).frame() : Long.MAX_VALUE;
    }

    /** Index of the first point after a frame; how many there are where none is. */
    private int firstAfter(long frame) {
        int low = 0;
        int high = points.size();
        while (low < high) {
            int middle = (low + high) >>> 1;
            if (points.get(middle).frame() <= frame) {
                low = middle + 1;
            } else {
                high = middle;
            }
        }
        return low;
    }

    /** Returns the curve with a point more, or another value of the point at that frame. */
    public Curve with(CurvePoint point) {
        List<CurvePoint> changed = new ArrayList<>(without(point.frame()).points());
        int at = 0;
        while (at < changed.size() && changed.get(at).frame() < point.frame()) {
            at++;
        }
        changed.add(at, point);
        return new Curve(changed);
    }

    /** Returns the curve with every value changed. */
    public Curve mapped(DoubleUnaryOperator change) {
        return new Curve(points.stream()
                .map(point -> new CurvePoint(point.frame(), change.applyAsDouble(point.value()), point.shape()))
                .toList());
    }

    /** Returns the curve without the point at a frame. */
    public Curve without(long frame) {
        return new Curve(points.stream().filter(p -> p.frame() != frame).toList());
    }

    /**
     * Returns the sum of two curves in a unit in which values add. Smooth segments become lines that follow them; where
     * one of the two jumps while the other moves, the sum is there one frame before.
     */
    public Curve plus(Curve other) {
        if (isNone() || other.isNone()) {
            return isNone() ? other : this;
        }
        TreeMap<Long, CurvePoint> sum = new TreeMap<>();
        TreeSet<Long> frames = new TreeSet<>();
        for (Curve one : List.of(this, other)) {
            for (int i = 0; i < one.points.size(); i++) {
                long frame = one.points.get(i).frame();
                frames.add(frame);
                boolean smooth = one.points.get(i).shape() == CurvePoint.Shape.SMOOTH && i + 1 < one.points.size();
                long end = smooth ? one.points.get(i + 1).frame() : frame;
                for (long at = frame + FOLLOWED; at < end; at += FOLLOWED) {
                    frames.add(at);
                }
            }
        }
        for (long frame : frames) {
            double value = at(frame) + other.at(frame);
            double before = before(frame, Scale.PLAIN) + other.before(frame, Scale.PLAIN);
            if (before != value && frame > 0) {
                double last = at(frame - 1) + other.at(frame - 1);
                sum.put(frame - 1, new CurvePoint(frame - 1, last, CurvePoint.Shape.HOLD));
            }
            boolean holds = holds(frame) && other.holds(frame);
            sum.put(frame, new CurvePoint(frame, value, holds ? CurvePoint.Shape.HOLD : CurvePoint.Shape.LINE));
        }
        return new Curve(List.copyOf(sum.values()));
    }

    /** Whether the value stays as it is from a frame to the next point. */
    private boolean holds(long frame) {
        int next = firstAfter(frame);
        return next == 0 || next == points.size() || points.get(next - 1).shape() == CurvePoint.Shape.HOLD;
    }
}
