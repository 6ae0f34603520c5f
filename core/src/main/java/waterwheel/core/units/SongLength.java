package waterwheel.core.units;

/** How long a song, a file or a render may be: what is longer is a mistake, and would fill memory and disk. */
public final class SongLength {
    /** 48 hours. */
    public static final long MOST_SECONDS = 48 * 3_600;

    private SongLength() {}

    /** The most frames at a sample rate. */
    public static long mostFrames(int sampleRateHz) {
        return MOST_SECONDS * sampleRateHz;
    }
}
