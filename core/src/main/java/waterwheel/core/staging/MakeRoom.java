package waterwheel.core.staging;

import java.util.ArrayList;
import java.util.List;
import waterwheel.core.edit.Edit;
import waterwheel.core.metering.Average;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.metering.Steps;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.Ride;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.units.Decibels;

/**
 * Channels that step back while another is active.
 *
 * @param depthDb by how much, 0.5 to 24
 * @param leadSeconds how long before the other begins they are back
 * @param fallSeconds how long stepping back takes
 * @param riseSeconds how long coming forward takes
 * @param holdSeconds gaps of the other that are shorter are none
 * @param aboveFloorDb how far above its noise floor the other counts as active
 */
public record MakeRoom(
        double depthDb,
        double leadSeconds,
        double fallSeconds,
        double riseSeconds,
        double holdSeconds,
        double aboveFloorDb) {
    public static final double LEAST_DEPTH_DB = 0.5;
    public static final double MOST_DEPTH_DB = 24;
    public static final MakeRoom USUAL = new MakeRoom(4, 0.1, 0.2, 0.5, 0.6, 12);

    /** Windows of 50 ms. */
    private static final int WINDOW_STEPS = 5;
    /** So far below its average it is not active, however quiet its floor is. */
    private static final double BELOW_AVERAGE_DB = 20;

    public MakeRoom {
        if (!(depthDb >= LEAST_DEPTH_DB && depthDb <= MOST_DEPTH_DB)) {
            throw new IllegalArgumentException("depthDb: " + depthDb + " (expected: 0.5 to 24)");
        }
    }

    public MakeRoom withDepthDb(double value) {
        return new MakeRoom(value, leadSeconds, fallSeconds, riseSeconds, holdSeconds, aboveFloorDb);
    }

    /** A stretch in which the other is active, in frames. */
    public record Active(long from, long to) {}

    /**
     * When a signal is active: its level in windows of 50 ms lies above the lower of its noise floor plus a distance and
     * its average less 20 dB; gaps shorter than the hold are closed.
     */
    public List<Active> activity(LevelSeries series) {
        double average = Average.dbfs(series);
        if (average == Double.NEGATIVE_INFINITY) {
            return List.of();
        }
        double threshold = Math.min(Average.noiseFloorDbfs(series) + aboveFloorDb, average - BELOW_AVERAGE_DB);
        long hold = Math.round(holdSeconds * series.sampleRateHz());
        List<Active> found = new ArrayList<>();
        for (int first = 0; first < series.steps(); first += WINDOW_STEPS) {
            int steps = Math.min(WINDOW_STEPS, series.steps() - first);
            long from = Steps.firstFrame(first, series.sampleRateHz());
            long to = Math.min(series.frames(), Steps.firstFrame((long) first + steps, series.sampleRateHz()));
            double loudest = 0;
            for (int p = 0; p < series.planes(); p++) {
                loudest = Math.max(loudest, series.energy(p, first, steps));
            }
            if (Decibels.rmsOfMeanSquare(loudest / Math.max(1, to - from)) <= threshold) {
                continue;
            }
            if (!found.isEmpty() && from - found.getLast().to() < hold) {
                found.set(found.size() - 1, new Active(found.getLast().from(), to));
            } else {
                found.add(new Active(from, to));
            }
        }
        return found;
    }

    /** The offset in dB over the song that makes room; {@link Curve#NONE} where the other is never active. */
    public Curve curve(LevelSeries key) {
        int rate = key.sampleRateHz();
        long lead = Math.round(leadSeconds * rate);
        long fall = Math.max(1, Math.round(fallSeconds * rate));
        long rise = Math.max(1, Math.round(riseSeconds * rate));
        List<CurvePoint> points = new ArrayList<>();
        for (Active active : activity(key)) {
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

    /** Has channels' faders step back: what they have in offsets over the song is replaced. */
    public static Edit edit(Session named, ChannelId key, List<ChannelId> channels, Curve room) {
        String whose = channels.size() == 1 ? named.channel(channels.getFirst()).name() : channels.size() + " channels";
        return new Edit("Room for " + named.channel(key).name() + " by " + whose, session -> {
            Session out = session;
            for (ChannelId id : channels) {
                ControlId fader = ControlId.ofStrip(id, Strip.FADER.key());
                Ride own = Controls.ride(out, fader).orElse(Controls.still(out, fader));
                out = Controls.with(out, fader, own.withOffsetCurve(room).withSuspended(false));
            }
            return out;
        });
    }
}
