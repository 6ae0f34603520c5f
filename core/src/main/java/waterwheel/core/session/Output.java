package waterwheel.core.session;

/** Where a channel's signal goes after its placement. */
public sealed interface Output {
    /** How many stereo pairs the interface has. */
    int PAIRS = 4;

    /** Into a bus, the main bus among them. */
    record ToBus(ChannelId bus) implements Output {}

    /**
     * Out of the audio interface by a stereo pair of its own, not through the mix.
     *
     * @param pair from 2, which is outputs 3 and 4, to {@link #PAIRS}; the first pair carries the mix
     */
    record ToInterface(int pair) implements Output {
        public ToInterface {
            if (pair < 2 || pair > PAIRS) {
                throw new IllegalArgumentException("pair: " + pair + " (expected: 2 to " + PAIRS + ")");
            }
        }

        /** The pair's name on screen. */
        public String label() {
            return "Outputs " + (2 * pair - 1) + "\u2013" + 2 * pair;
        }
    }

    /** Nowhere: the channel is not heard. */
    record Nowhere() implements Output {}

    static Output to(ChannelId bus) {
        return new ToBus(bus);
    }
}
