package waterwheel.core.session;

/**
 * Whether a channel is heard.
 *
 * @param muted whether all that leaves the channel is silent
 * @param soloed whether the channel is heard while others are not
 * @param soloSafe whether the channel goes on sounding while others are soloed
 */
public record Switches(boolean muted, boolean soloed, boolean soloSafe) {
    public static final Switches OFF = new Switches(false, false, false);
}
