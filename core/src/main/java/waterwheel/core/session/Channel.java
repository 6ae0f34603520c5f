package waterwheel.core.session;

/** A row of the mix: what has a name and passes or steers a signal. */
public sealed interface Channel permits Track, Bus {
    ChannelId id();

    /** The name on screen; never blank. */
    String name();

    Strip strip();

    /** How many signals run side by side in the channel before its placement: 1 mono, 2 stereo. */
    int planes();

    /** Whether it is a track that stays out of the mix, such as a click. */
    default boolean cue() {
        return this instanceof Track track && track.kind() == Track.Kind.CUE;
    }

    Channel withStrip(Strip value);

    Channel withName(String value);
}
