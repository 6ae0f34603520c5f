package waterwheel.core.engine;

import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.Parameter;
import waterwheel.core.rides.Control;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.Ride;
import waterwheel.core.rides.Scale;
import waterwheel.core.units.Decibels;

/** What an insert's rides say at a frame. Immutable but for what it fills in; one thread at a time. */
final class InsertRides {
    private final Insert insert;
    private final List<Control> controls;
    private final @Nullable Ride[] rides;
    private final double[] still;
    /** The curves' own points, and those at which one jumps. */
    private final long[] points;

    private final long[] jumps;
    private final double[] values;

    InsertRides(Insert insert) {
        this.insert = insert;
        List<Parameter> parameters = insert.processor().kind().parameters();
        controls = insert.controls();
        still = insert.processor().array();
        values = still.clone();
        rides = new Ride[parameters.size()];
        for (int i = 0; i < rides.length; i++) {
            rides[i] = insert.rides().active(parameters.get(i).key()).orElse(null);
        }
        List<Ride> active =
                insert.rides().byKey().values().stream().filter(Ride::active).toList();
        points = active.stream()
                .flatMap(ride -> List.of(ride.curve(), ride.offsetCurve()).stream())
                .map(Curve::points)
                .flatMap(List::stream)
                .mapToLong(CurvePoint::frame)
                .sorted()
                .distinct()
                .toArray();
        jumps = Arrays.stream(points).filter(this::jumps).toArray();
    }

    private boolean jumps(long frame) {
        for (Control control : controls) {
            Optional<Ride> ride = insert.rides().active(control.key());
            if (ride.isPresent()
                    && ride.get().at(frame, control.scale()) != ride.get().before(frame, control.scale())) {
                return true;
            }
        }
        return false;
    }

    boolean jumpsAt(long frame) {
        return Arrays.binarySearch(jumps, frame) >= 0;
    }

    /** The first control point behind a frame. */
    long next(long frame) {
        int found = Arrays.binarySearch(points, frame);
        int next = found >= 0 ? found + 1 : -found - 1;
        long grid = frame - frame % MotionReader.GRID + MotionReader.GRID;
        return next < points.length ? Math.min(grid, points[next]) : grid;
    }

    /**
     * The parameters' values at a frame, or those that they come to there from before; the same array each time.
     */
    double[] values(long frame, boolean before) {
        for (int i = 0; i < values.length; i++) {
            Ride ride = rides[i];
            if (ride != null) {
                Parameter parameter = insert.processor().kind().parameters().get(i);
                Scale scale = parameter.unit().equals("Hz") ? Scale.OCTAVES : Scale.PLAIN;
                double value = before ? ride.before(frame, scale) : ride.at(frame, scale);
                values[i] = Math.clamp(value, parameter.least(), parameter.most());
            }
        }
        return values;
    }

    /** The gain of what is processed at a frame, linear. */
    double wet(long frame, boolean before) {
        return bypassed(frame, before)
                ? 0
                : Decibels.toFactor(read(Insert.OUTPUT, insert.outputDb(), frame, before))
                        * read(Insert.MIX, insert.mix(), frame, before);
    }

    /** The gain of what is not processed; while it is bypassed, also without the input gain. */
    double dry(long frame, boolean before) {
        return bypassed(frame, before)
                ? Decibels.toFactor(-read(Insert.INPUT, insert.inputDb(), frame, before))
                : Decibels.toFactor(read(Insert.OUTPUT, insert.outputDb(), frame, before))
                        * (1 - read(Insert.MIX, insert.mix(), frame, before));
    }

    private boolean bypassed(long frame, boolean before) {
        return read(Insert.BYPASSED, insert.bypassed() ? 1 : 0, frame, before) >= 0.5;
    }

    private double read(Control control, double set, long frame, boolean before) {
        Ride ride = insert.rides().byKey().get(control.key());
        if (ride == null || !ride.active()) {
            return set;
        }
        double value = before ? ride.before(frame, control.scale()) : ride.at(frame, control.scale());
        return control.limited(value);
    }
}
