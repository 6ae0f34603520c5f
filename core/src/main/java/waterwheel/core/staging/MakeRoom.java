package waterwheel.core.staging;

import java.util.ArrayList;
import java.util.List;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;

/**
 * Channels that step back while another is active.
 *
 * @param depthDb by how much, 0.5 to 24
 * @param leadSeconds how long before the other begins they are back
 * @param fallSeconds how long stepping back takes
 * @param riseSeconds how long coming forward takes
 * @param holdSeconds gaps of the other that are shorter are none
 * @param aboveFloorDb how far above its noise floor the other counts as active
 * @param by what steps back: all of a channel, or the other's own band of it
 */
public record MakeRoom(
        double depthDb,
        double leadSeconds,
        double fallSeconds,
        double riseSeconds,
        double holdSeconds,
        double aboveFloorDb,
        By by) {
    public static final double LEAST_DEPTH_DB = 0.5;
    public static final double MOST_DEPTH_DB = 24;
    public static final MakeRoom USUAL = new MakeRoom(4, 0.1, 0.2, 0.5, 0.6, 12, By.FADER);

    /** What steps back. */
    public enum By {
        FADER("the fader"),
        BELL("a bell of an equaliser");

        private final String label;

        By(String label) {
            this.label = label;
        }

        /** The words on screen. */
        public String label() {
            return label;
        }
    }

    public MakeRoom {
        if (!(depthDb >= LEAST_DEPTH_DB && depthDb <= MOST_DEPTH_DB)) {
            throw new IllegalArgumentException("depthDb: " + depthDb + " (expected: 0.5 to 24)");
        }
    }

    public MakeRoom withDepthDb(double value) {
        return new MakeRoom(value, leadSeconds, fallSeconds, riseSeconds, holdSeconds, aboveFloorDb, by);
    }

    public MakeRoom withBy(By value) {
        return new MakeRoom(depthDb, leadSeconds, fallSeconds, riseSeconds, holdSeconds, aboveFloorDb, value);
    }

    /** When the other is active. */
    public List<Activity> activity(LevelSeries series) {
        return Activity.of(series, holdSeconds, aboveFloorDb);
    }

    /** The offset in dB over the song that makes room; {@link Curve#NONE} where the other is never active. */
    public Curve curve(LevelSeries key) {
        int rate = key.sampleRateHz();
        long lead = Math.round(leadSeconds * rate);
        long fall = Math.max(1, Math.round(fallSeconds * rate));
        long rise = Math.max(1, Math.round(riseSeconds * rate));
        List<CurvePoint> points = new ArrayList<>();
        for (Activity active : activity(key)) {
            long down = Math.max(0, active.from() - lead);
            long begin = Math.max(0, down - fall);
            if (!points.isEmpty() && points.getLast().frame() >= begin) {
                // It begins again before they have come forward: they stay back.
                points.removeLast();
                points.removeLast();
            } else {
                if (begin < down) {
                    points.add(new CurvePoint(begin, 0, CurvePoint.Shape.LINE));
                }
                points.add(new CurvePoint(down, -depthDb, CurvePoint.Shape.HOLD));
            }
            points.add(new CurvePoint(active.to(), -depthDb, CurvePoint.Shape.LINE));
            points.add(new CurvePoint(active.to() + rise, 0, CurvePoint.Shape.HOLD));
        }
        return new Curve(points);
    }
}
