package waterwheel.core.rides;

import java.util.ArrayList;
import java.util.List;
import java.util.function.UnaryOperator;

/**
 * What is done to a stretch of a curve. Outside of it the curve stays as it is; smooth segments that the stretch cuts
 * become lines that follow them.
 *
 * @param from its first frame
 * @param to the frame after its last one
 */
public record CurveRange(long from, long to) {
    public CurveRange {
        if (from < 0 || to <= from) {
            throw new IllegalArgumentException("range: " + from + " to " + to + " (expected: growing, from 0)");
        }
    }

    public long frames() {
        return to - from;
    }

    /** The stretch of a curve by itself: its points, one at its beginning, and one at its last frame. */
    public List<CurvePoint> cut(Curve curve, Scale scale) {
        List<CurvePoint> points = new ArrayList<>();
        for (CurvePoint point : opened(opened(curve, from, scale), to, scale).points()) {
            if (point.frame() >= from && point.frame() < to) {
                points.add(point);
            }
        }
        if (points.getLast().frame() < to - 1) {
            CurvePoint.Shape last = points.getLast().shape();
            points.add(new CurvePoint(to - 1, curve.at(to - 1, scale), last));
        }
        return points;
    }

    /**
     * Returns a curve in which other points stand in this stretch.
     *
     * @param points within the stretch, by frame; the curve holds what it was before them and is again what it was behind
     */
    public Curve overwritten(Curve curve, List<CurvePoint> points, Scale scale) {
        if (curve.isNone()) {
            return new Curve(points);
        }
        List<CurvePoint> all = new ArrayList<>();
        Curve opened = opened(opened(curve, from, scale), to, scale);
        for (CurvePoint point : opened.points()) {
            if (point.frame() < from) {
                all.add(point);
            }
        }
        if (from > 0 && !points.isEmpty() && points.getFirst().value() != curve.before(from, scale)) {
            // It is what it was until the stretch begins, and jumps there.
            all.removeIf(point -> point.frame() == from - 1);
            all.add(new CurvePoint(from - 1, curve.at(from - 1, scale), CurvePoint.Shape.HOLD));
        }
        all.addAll(points);
        double after = curve.at(to, scale);
        if (!points.isEmpty() && points.getLast().value() != after) {
            CurvePoint last = points.getLast();
            all.remove(last);
            all.add(new CurvePoint(last.frame(), last.value(), CurvePoint.Shape.HOLD));
        }
        for (CurvePoint point : opened.points()) {
            if (point.frame() >= to) {
                all.add(point);
            }
        }
        return new Curve(all);
    }

    /** Returns a curve with every value of this stretch changed. */
    public Curve changed(Curve curve, UnaryOperator<Double> change, Scale scale) {
        return overwritten(
                curve,
                cut(curve, scale).stream()
                        .map(point -> new CurvePoint(point.frame(), change.apply(point.value()), point.shape()))
                        .toList(),
                scale);
    }

    /** The curve with a point at a frame, and the same values as before. */
    private static Curve opened(Curve curve, long frame, Scale scale) {
        List<CurvePoint> points = curve.points();
        int before = -1;
        for (int i = 0; i < points.size(); i++) {
            if (points.get(i).frame() == frame) {
                return curve;
            }
            before = points.get(i).frame() < frame ? i : before;
        }
        CurvePoint.Shape shape =
                before < 0 ? CurvePoint.Shape.LINE : points.get(before).shape();
        if (shape != CurvePoint.Shape.SMOOTH || before + 1 == points.size()) {
            return curve.with(new CurvePoint(frame, curve.at(frame, scale), shape));
        }
        Curve out = curve;
        long first = points.get(before).frame();
        long last = points.get(before + 1).frame();
        out = out.with(new CurvePoint(first, points.get(before).value(), CurvePoint.Shape.LINE));
        for (long at = first + Curve.FOLLOWED; at < last; at += Curve.FOLLOWED) {
            out = out.with(new CurvePoint(at, curve.at(at, scale), CurvePoint.Shape.LINE));
        }
        return out.with(new CurvePoint(frame, curve.at(frame, scale), CurvePoint.Shape.LINE));
    }
}
