package waterwheel.core.session;

/** A row of the mix: what has a name and passes or steers a signal. */
public sealed interface Channel permits Track, Bus {
    ChannelId id();

    /** The name on screen; never blank. */
    String name();

    Strip strip();

    /** How many signals run side by side in the channel before its placement: 1 mono, 2 stereo. */
    int planes();

    Channel withStrip(Strip value);

    Channel withName(String value);
}
