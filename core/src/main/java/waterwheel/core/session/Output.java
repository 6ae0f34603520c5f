package waterwheel.core.session;

/** Where a channel's signal goes after its placement. */
public sealed interface Output {
    /** Into a bus, the main bus among them. */
    record ToBus(ChannelId bus) implements Output {}

    /** Nowhere: the channel is not heard. */
    record Nowhere() implements Output {}

    static Output to(ChannelId bus) {
        return new ToBus(bus);
    }
}
