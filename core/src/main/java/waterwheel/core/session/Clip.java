package waterwheel.core.session;

import java.util.ArrayList;
import java.util.List;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.sources.SourceId;
import waterwheel.core.units.Ranges;

/**
 * A part of an audio file on the song's line. Frames count at the session's sample rate. It sounds as the file times
 * the clip's gain, its gain curve and its fades; the file itself is never changed.
 *
 * @param startFrames where the clip begins on the song's line, 0 or later
 * @param offsetFrames the first frame of the file that is heard
 * @param lengthFrames how many frames are heard, 1 or more
 * @param gainDb gain of this clip alone, -48 to +48 dB
 * @param fadeInFrames frames from its start until it is fully there; with the fade out at most its length
 * @param fadeOutFrames frames until its end over which it leaves
 * @param gainCurve added to the gain, in dB by frame from the clip's start, -48 to +48 dB
 * @param side what is heard of a stereo file
 * @param rides offsets on its channel's fader and position, and on the settings of one insert, while the clip lasts
 */
public record Clip(
        SourceId source,
        long startFrames,
        long offsetFrames,
        long lengthFrames,
        double gainDb,
        long fadeInFrames,
        long fadeOutFrames,
        Curve gainCurve,
        Side side,
        List<ClipRide> rides) {
    /** Which of a stereo file's sides are heard. */
    public enum Side {
        /** Both: side by side on a stereo track, half their sum on a mono one. */
        BOTH("both"),
        LEFT("left"),
        RIGHT("right");

        private final String label;

        Side(String label) {
            this.label = label;
        }

        /** The word in the session file. */
        public String label() {
            return label;
        }
    }

    public Clip {
        startFrames = Ranges.checked("startFrames", startFrames, 0);
        offsetFrames = Ranges.checked("offsetFrames", offsetFrames, 0);
        lengthFrames = Ranges.checked("lengthFrames", lengthFrames, 1);
        gainDb = Ranges.checked("gainDb", gainDb, -Strip.TRIM_LIMIT_DB, Strip.TRIM_LIMIT_DB);
        fadeInFrames = Ranges.checked("fadeInFrames", fadeInFrames, 0);
        fadeOutFrames = Ranges.checked("fadeOutFrames", fadeOutFrames, 0);
        Math.addExact(startFrames, lengthFrames);
        Math.addExact(offsetFrames, lengthFrames);
        if (Math.addExact(fadeInFrames, fadeOutFrames) > lengthFrames) {
            throw new IllegalArgumentException("fades: " + fadeInFrames + " and " + fadeOutFrames
                    + " frames (expected: together at most the clip's " + lengthFrames + ")");
        }
        rides = List.copyOf(rides);
        if (rides.stream()
                        .map(ClipRide::part)
                        .filter(ControlId.OfInsert.class::isInstance)
                        .distinct()
                        .count()
                > 1) {
            throw new IllegalArgumentException("rides: of several inserts (expected: of one)");
        }
        for (CurvePoint point : gainCurve.points()) {
            Ranges.checked("gainCurve", point.value(), -Strip.TRIM_LIMIT_DB, Strip.TRIM_LIMIT_DB);
        }
    }

    /** A clip of all sides of its file. */
    public Clip(
            SourceId source,
            long startFrames,
            long offsetFrames,
            long lengthFrames,
            double gainDb,
            long fadeInFrames,
            long fadeOutFrames,
            Curve gainCurve) {
        this(
                source,
                startFrames,
                offsetFrames,
                lengthFrames,
                gainDb,
                fadeInFrames,
                fadeOutFrames,
                gainCurve,
                Side.BOTH,
                List.of());
    }

    /** A clip without fades and gain curve. */
    public Clip(SourceId source, long startFrames, long offsetFrames, long lengthFrames, double gainDb) {
        this(source, startFrames, offsetFrames, lengthFrames, gainDb, 0, 0, Curve.NONE);
    }

    /** The frame after the clip's last one, on the song's line. */
    public long endFrames() {
        return startFrames + lengthFrames;
    }

    /** Whether the clip's gain changes while it sounds. */
    public boolean shaped() {
        return fadeInFrames > 0 || fadeOutFrames > 0 || !gainCurve.isNone();
    }

    /** What the clip adds to one of its channel's controls; {@link Curve#NONE} where it leaves that alone. */
    public Curve ride(ControlId.Part part, String key) {
        return rides.stream()
                .filter(ride -> ride.moves(part, key))
                .map(ClipRide::offset)
                .findFirst()
                .orElse(Curve.NONE);
    }

    public Clip withStartFrames(long value) {
        return copy(value, gainDb, fadeInFrames, fadeOutFrames, gainCurve, side, rides);
    }

    public Clip withGainDb(double value) {
        return copy(startFrames, value, fadeInFrames, fadeOutFrames, gainCurve, side, rides);
    }

    public Clip withFades(long in, long out) {
        return copy(startFrames, gainDb, in, out, gainCurve, side, rides);
    }

    public Clip withGainCurve(Curve value) {
        return copy(startFrames, gainDb, fadeInFrames, fadeOutFrames, value, side, rides);
    }

    public Clip withSide(Side value) {
        return copy(startFrames, gainDb, fadeInFrames, fadeOutFrames, gainCurve, value, rides);
    }

    public Clip withRides(List<ClipRide> value) {
        return copy(startFrames, gainDb, fadeInFrames, fadeOutFrames, gainCurve, side, value);
    }

    /** Returns the clip with another ride of a control; without one where it has no points. */
    public Clip withRide(ClipRide ride) {
        List<ClipRide> changed = new ArrayList<>(rides);
        changed.removeIf(one -> one.moves(ride.part(), ride.key()));
        if (!ride.offset().isNone()) {
            changed.add(ride);
        }
        return withRides(changed);
    }

    /** Returns the clip without its rides of an insert or of the strip. */
    public Clip withoutRides(ControlId.Part part) {
        return withRides(
                rides.stream().filter(ride -> !ride.part().equals(part)).toList());
    }

    private Clip copy(
            long start, double db, long fadeIn, long fadeOut, Curve curve, Side heard, List<ClipRide> ridden) {
        return new Clip(source, start, offsetFrames, lengthFrames, db, fadeIn, fadeOut, curve, heard, ridden);
    }

    /** The clip as its file is: no gain, no fades, no curve. */
    public Clip bare() {
        return new Clip(source, startFrames, offsetFrames, lengthFrames, 0).withSide(side);
    }
}
