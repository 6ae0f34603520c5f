package waterwheel.core.session;

/** What of other channels led to one that is parked, and is cut meanwhile. */
public sealed interface Bond {
    /** A channel's output into it. */
    record Fed(ChannelId from, ChannelId bus) implements Bond {}

    /** A channel's extra output into it. */
    record Extra(ChannelId from, ChannelId bus) implements Bond {}

    /**
     * A send of another channel into it, or to one of its key inputs.
     *
     * @param place among the sends that were left of the channel when it was cut
     */
    record Sent(ChannelId from, int place, Send send) implements Bond {}

    /**
     * Its place in a VCA, a link group or a named stem.
     *
     * @param group the VCA, the link group or the named stem
     * @param exempt whether that leaves it alone
     */
    record Member(ChannelId group, ChannelId member, boolean exempt) implements Bond {}
}
