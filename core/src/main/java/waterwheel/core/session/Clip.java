package waterwheel.core.session;

/**
 * A part of an audio file on the song's line. Frames count at the session's sample rate.
 *
 * @param startFrames where the clip begins on the song's line, 0 or later
 * @param offsetFrames the first frame of the file that is heard
 * @param lengthFrames how many frames are heard, 1 or more
 * @param gainDb gain of this clip alone, -48 to +48 dB
 */
public record Clip(SourceId source, long startFrames, long offsetFrames, long lengthFrames, double gainDb) {
    public Clip {
        startFrames = Ranges.checked("startFrames", startFrames, 0);
        offsetFrames = Ranges.checked("offsetFrames", offsetFrames, 0);
        lengthFrames = Ranges.checked("lengthFrames", lengthFrames, 1);
        gainDb = Ranges.checked("gainDb", gainDb, -Strip.TRIM_LIMIT_DB, Strip.TRIM_LIMIT_DB);
        Math.addExact(startFrames, lengthFrames);
        Math.addExact(offsetFrames, lengthFrames);
    }

    /** The frame after the clip's last one, on the song's line. */
    public long endFrames() {
        return startFrames + lengthFrames;
    }
}
