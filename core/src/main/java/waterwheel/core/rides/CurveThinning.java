package waterwheel.core.rides;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;

/**
 * Leaves out points of a curve of straight lines that the others say already (Ramer 1972; Douglas and Peucker 1973, with
 * the distance measured along the value axis).
 */
public final class CurveThinning {
    private CurveThinning() {}

    /**
     * Returns the points that are needed.
     *
     * @param within the most by which the thinned curve may differ from the full one, in the unit of the values
     */
    public static List<CurvePoint> thinned(List<CurvePoint> points, double within) {
        if (points.size() < 3) {
            return points;
        }
        BitSet needed = new BitSet();
        needed.set(0);
        needed.set(points.size() - 1);
        mark(points, 0, points.size() - 1, within, needed);
        List<CurvePoint> kept = new ArrayList<>();
        needed.stream().forEach(i -> kept.add(points.get(i)));
        return kept;
    }

    private static void mark(List<CurvePoint> points, int first, int last, double within, BitSet needed) {
        CurvePoint from = points.get(first);
        CurvePoint to = points.get(last);
        double slope = (to.value() - from.value()) / (to.frame() - from.frame());
        int furthest = -1;
        double most = within;
        for (int i = first + 1; i < last; i++) {
            CurvePoint point = points.get(i);
            double distance = Math.abs(point.value() - from.value() - slope * (point.frame() - from.frame()));
            if (distance > most) {
                most = distance;
                furthest = i;
            }
        }
        if (furthest >= 0) {
            needed.set(furthest);
            mark(points, first, furthest, within, needed);
            mark(points, furthest, last, within, needed);
        }
    }
}
