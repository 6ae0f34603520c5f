package waterwheel.core.path;

import java.util.Arrays;
import java.util.List;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import waterwheel.core.inserts.Insert;
import waterwheel.core.rides.Control;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.Ride;
import waterwheel.core.rides.RideReader;
import waterwheel.core.rides.Scale;
import waterwheel.core.session.PanLaw;
import waterwheel.core.session.Placement;
import waterwheel.core.units.Decibels;

/**
 * A gain that moves in time, as what makes it move. It says what the linear gains are at a frame; between control points,
 * which are the song's frames that divide by 32 and the curves' own points, they run in straight lines. Immutable.
 */
public sealed interface Motion {
    /** How many gains there are: 1 for all planes alike, or one from each plane to left and then to right. */
    int gains();

    /** Reads the gains, for one thread. */
    Reader reader();

    /** Reads a motion's linear gains; allocates nothing. */
    interface Reader {
        /** So many rows more than there are gains it works in. */
        int ROOM = 2;

        /**
         * Fills in the gains at frames of the song.
         *
         * @param frames growing
         * @param before whether what they come to there from before is meant, where a curve jumps
         * @param gains filled in: {@code gains[gain][0 .. count)}; behind them {@link #ROOM} rows that may hold anything
         */
        void read(long[] frames, int count, boolean before, double[][] gains);
    }

    /** The rides that make it move. */
    List<Ride> rides();

    /** The song's frame before which another motion says the same; {@link Long#MAX_VALUE} where it always does. */
    long sameUntil(Motion other);

    private static long sameUntil(List<Ride> some, List<Ride> others) {
        return some.size() != others.size()
                ? 0
                : IntStream.range(0, some.size())
                        .mapToLong(i -> some.get(i).sameUntil(others.get(i)))
                        .min()
                        .orElse(Long.MAX_VALUE);
    }

    private static RideReader[] readers(List<Ride> rides, Scale scale) {
        return rides.stream().map(ride -> new RideReader(ride, scale)).toArray(RideReader[]::new);
    }

    /** Whether a gain may jump at a curve's own point. */
    default boolean mayJump() {
        return curves().stream().anyMatch(Curve::holds);
    }

    /** All curves in it, whose points are control points. */
    default List<Curve> curves() {
        return rides().stream()
                .flatMap(ride -> Stream.of(ride.curve(), ride.offsetCurve()))
                .filter(curve -> !curve.isNone())
                .toList();
    }

    /**
     * One gain for all planes: the sum of what rides read, in dB, and of what stands still; silent at -90 dB and below.
     *
     * @param stillDb the sum of what stands still, in dB
     * @param factor linear, applied beside it, such as -1 for inverted polarity
     */
    record Level(List<Ride> rides, double stillDb, double factor) implements Motion {
        public Level {
            rides = List.copyOf(rides);
        }

        @Override
        public int gains() {
            return 1;
        }

        @Override
        public long sameUntil(Motion other) {
            return other instanceof Level that && that.equals(new Level(that.rides, stillDb, factor))
                    ? Motion.sameUntil(rides, that.rides)
                    : 0;
        }

        @Override
        public Reader reader() {
            RideReader[] readers = readers(rides, Scale.PLAIN);
            return (frames, count, before, gains) -> {
                double[] read = gains[0];
                double[] part = gains[1];
                Arrays.fill(read, 0, count, stillDb);
                for (RideReader one : readers) {
                    one.read(frames, count, before, part);
                    for (int i = 0; i < count; i++) {
                        read[i] += part[i];
                    }
                }
                Decibels.toFactors(read, count, part);
                for (int i = 0; i < count; i++) {
                    read[i] = read[i] <= Control.SILENT_DB ? 0 : factor * part[i];
                }
            };
        }
    }

    /**
     * Open or closed, by switches.
     *
     * @param opens whether a switch that is on opens; otherwise it closes, as a mute does, and one of several is enough
     * @param still what it is beside the switches: 1, or 0 for closed
     */
    record Gate(List<Ride> rides, boolean opens, double still) implements Motion {
        public Gate {
            rides = List.copyOf(rides);
        }

        @Override
        public int gains() {
            return 1;
        }

        @Override
        public boolean mayJump() {
            return true;
        }

        @Override
        public long sameUntil(Motion other) {
            return other instanceof Gate that && that.equals(new Gate(that.rides, opens, still))
                    ? Motion.sameUntil(rides, that.rides)
                    : 0;
        }

        @Override
        public Reader reader() {
            RideReader[] readers = readers(rides, Scale.SWITCH);
            return (frames, count, before, gains) -> {
                for (int i = 0; i < count; i++) {
                    boolean on = false;
                    for (RideReader one : readers) {
                        on |= one.read(frames[i], before) >= 0.5;
                    }
                    gains[0][i] = on == opens ? still : 0;
                }
            };
        }
    }

    /**
     * What of an insert's two ways is heard, where its bypass, output gain or mix moves: what came back from it, with the
     * output gain, or what went by.
     *
     * @param insert whose rides move it
     * @param back whether it is what came back
     * @param factor linear, applied beside it, such as -1 for inverted polarity
     */
    record Way(Insert insert, boolean back, double factor) implements Motion {
        @Override
        public int gains() {
            return 1;
        }

        @Override
        public List<Ride> rides() {
            return Stream.of(Insert.BYPASSED, Insert.OUTPUT, Insert.MIX)
                    .flatMap(control -> insert.rides().active(control.key()).stream())
                    .toList();
        }

        @Override
        public boolean mayJump() {
            return true;
        }

        @Override
        public long sameUntil(Motion other) {
            return other instanceof Way that && that.equals(new Way(that.insert, back, factor))
                    ? insert.sameUntil(that.insert)
                    : 0;
        }

        @Override
        public Reader reader() {
            LineReader bypassed = line(Insert.BYPASSED);
            LineReader output = line(Insert.OUTPUT);
            LineReader mix = line(Insert.MIX);
            return (frames, count, before, gains) -> {
                for (int i = 0; i < count; i++) {
                    long frame = frames[i];
                    double part = bypassed.read(frame, before) >= 0.5 ? 0 : mix.read(frame, before);
                    gains[0][i] = factor * (back ? part * Decibels.toFactor(output.read(frame, before)) : 1 - part);
                }
            };
        }

        /** What a control reads: its ride while that is active, or what it is set to. */
        private LineReader line(Control control) {
            double set = insert.value(control.key());
            return insert.rides()
                    .active(control.key())
                    .map(ride -> new RideReader(ride, control.scale()))
                    .<LineReader>map(reader -> (frame, before) -> control.limited(reader.read(frame, before)))
                    .orElse((frame, before) -> set);
        }

        private interface LineReader {
            double read(long frame, boolean before);
        }
    }

    /**
     * A placement whose position or width moves.
     *
     * @param still what it is where no ride says otherwise
     * @param position its ride; one without points where it stands still
     * @param width likewise
     */
    record Placing(PanLaw law, int planes, Placement still, Ride position, Ride width) implements Motion {
        @Override
        public int gains() {
            return 2 * planes;
        }

        @Override
        public List<Ride> rides() {
            return List.of(position, width);
        }

        @Override
        public long sameUntil(Motion other) {
            return other instanceof Placing that
                            && that.equals(new Placing(law, planes, still, that.position, that.width))
                    ? Motion.sameUntil(rides(), that.rides())
                    : 0;
        }

        @Override
        public Reader reader() {
            RideReader where = new RideReader(position, Scale.PLAIN);
            RideReader wide = new RideReader(width, Scale.PLAIN);
            return (frames, count, before, gains) -> {
                double[] positions = gains[gains()];
                double[] widths = gains[gains() + 1];
                if (position.active()) {
                    where.read(frames, count, before, positions);
                } else {
                    Arrays.fill(positions, 0, count, still.position());
                }
                if (width.active()) {
                    wide.read(frames, count, before, widths);
                } else {
                    Arrays.fill(widths, 0, count, still.width());
                }
                for (int i = 0; i < count; i++) {
                    positions[i] = Placement.POSITION.limited(positions[i]);
                    widths[i] = Placement.WIDTH.limited(widths[i]);
                }
                Placement.gains(law, planes, still.mode(), positions, widths, count, gains);
            };
        }
    }
}
