package waterwheel.core.session;

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
        Side side) {
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
                Side.BOTH);
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

    public Clip withGainDb(double value) {
        return new Clip(
                source, startFrames, offsetFrames, lengthFrames, value, fadeInFrames, fadeOutFrames, gainCurve, side);
    }

    public Clip withFades(long in, long out) {
        return new Clip(source, startFrames, offsetFrames, lengthFrames, gainDb, in, out, gainCurve, side);
    }

    public Clip withGainCurve(Curve value) {
        return new Clip(
                source, startFrames, offsetFrames, lengthFrames, gainDb, fadeInFrames, fadeOutFrames, value, side);
    }

    public Clip withSide(Side value) {
        return new Clip(
                source, startFrames, offsetFrames, lengthFrames, gainDb, fadeInFrames, fadeOutFrames, gainCurve, value);
    }

    /** The clip as its file is: no gain, no fades, no curve. */
    public Clip bare() {
        return new Clip(source, startFrames, offsetFrames, lengthFrames, 0).withSide(side);
    }
}
