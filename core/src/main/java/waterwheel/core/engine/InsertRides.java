package waterwheel.core.engine;

import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.Parameter;
import waterwheel.core.processing.Moves;
import waterwheel.core.rides.Control;
import waterwheel.core.rides.Ride;
import waterwheel.core.rides.RideReader;
import waterwheel.core.units.Decibels;

/** What an insert's rides say at a frame. Immutable but for what it fills in; one thread at a time. */
final class InsertRides {
    private final Insert insert;
    private final List<Control> controls;
    /** The places of the parameters that move, and what moves them. */
    private final int[] moved;

    private final Parameter[] parameters;
    private final RideReader[] readers;
    private final @Nullable RideReader bypass;
    private final @Nullable RideReader input;
    private final @Nullable RideReader output;
    private final @Nullable RideReader mix;
    private final ControlPoints points;
    /** The curves' own points at which one jumps. */
    private final long[] jumps;

    private final double[] values;

    InsertRides(Insert insert) {
        this.insert = insert;
        List<Parameter> all = insert.processor().kind().parameters();
        controls = insert.controls();
        values = insert.processor().array();
        moved = IntStream.range(0, all.size())
                .filter(i -> insert.rides().active(all.get(i).key()).isPresent())
                .toArray();
        parameters = Arrays.stream(moved).mapToObj(all::get).toArray(Parameter[]::new);
        readers = Arrays.stream(parameters)
                .map(parameter -> reader(insert, parameter.control()))
                .toArray(RideReader[]::new);
        bypass = reader(insert, Insert.BYPASSED);
        input = reader(insert, Insert.INPUT);
        output = reader(insert, Insert.OUTPUT);
        mix = reader(insert, Insert.MIX);
        points = new ControlPoints(insert.rides().byKey().values().stream()
                .filter(Ride::active)
                .flatMap(ride -> Stream.of(ride.curve(), ride.offsetCurve())));
        jumps = Arrays.stream(points.own()).filter(this::jumps).toArray();
    }

    private static @Nullable RideReader reader(Insert insert, Control control) {
        return insert.rides()
                .active(control.key())
                .map(ride -> new RideReader(ride, control.scale()))
                .orElse(null);
    }

    /** Whether these are another's: of the very same insert, which is all that a playing thread can look at. */
    @SuppressWarnings("ReferenceEquality") // comparing all points would allocate
    boolean areOf(InsertRides other) {
        return insert == other.insert;
    }

    /** The places of the parameters that move; not to be changed. */
    int[] moved() {
        return moved;
    }

    /** How many parameters the processor has. */
    int parameters() {
        return values.length;
    }

    /** Whether bypass, mix or a gain around the processor moves. */
    boolean movesGains() {
        return bypass != null || input != null || output != null || mix != null;
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
        return jumpIn(frame, frame + 1);
    }

    /** Whether something jumps from a frame on and before another. */
    boolean jumpIn(long first, long end) {
        int next = ControlPoints.after(jumps, first - 1);
        return next < jumps.length && jumps[next] < end;
    }

    /** Finds the control points around some frames, as {@link ControlPoints#around}. */
    int points(long first, long end, long[] found) {
        return points.around(first, end, found);
    }

    /** The first control point behind a frame. */
    long next(long frame) {
        return points.next(frame);
    }

    /**
     * The parameters' values at a frame, or those that they come to there from before; the same array each time.
     */
    double[] values(long frame, boolean before) {
        for (int i = 0; i < moved.length; i++) {
            double value = readers[i].read(frame, before);
            values[moved[i]] = Math.clamp(value, parameters[i].least(), parameters[i].most());
        }
        return values;
    }

    /** Writes what the parameters that move come to at growing frames. */
    void write(long[] frames, Moves script) {
        for (int i = 0; i < moved.length; i++) {
            double[] row = script.row(moved[i]);
            readers[i].read(frames, script.count(), true, row);
            for (int k = 0; k < script.count(); k++) {
                row[k] = Math.clamp(row[k], parameters[i].least(), parameters[i].most());
            }
        }
    }

    /** The gain of what is processed at a frame, linear. */
    double wet(long frame, boolean before) {
        return bypassed(frame, before)
                ? 0
                : Decibels.toFactor(read(output, Insert.OUTPUT, insert.outputDb(), frame, before))
                        * read(mix, Insert.MIX, insert.mix(), frame, before);
    }

    /** The gain of what is not processed; while it is bypassed, also without the input gain. */
    double dry(long frame, boolean before) {
        return bypassed(frame, before)
                ? Decibels.toFactor(-read(input, Insert.INPUT, insert.inputDb(), frame, before))
                : Decibels.toFactor(read(output, Insert.OUTPUT, insert.outputDb(), frame, before))
                        * (1 - read(mix, Insert.MIX, insert.mix(), frame, before));
    }

    private boolean bypassed(long frame, boolean before) {
        return read(bypass, Insert.BYPASSED, insert.bypassed() ? 1 : 0, frame, before) >= 0.5;
    }

    private static double read(@Nullable RideReader reader, Control control, double set, long frame, boolean before) {
        if (reader == null) {
            return set;
        }
        return control.limited(reader.read(frame, before));
    }
}
