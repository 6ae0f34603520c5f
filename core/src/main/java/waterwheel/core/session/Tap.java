package waterwheel.core.session;

/**
 * Where a track that has no clips takes its signal from.
 *
 * @param channel another channel; not one that the track is heard in
 * @param point where on its way
 */
public record Tap(ChannelId channel, Point point) {
    /** A place in a channel. */
    public enum Point {
        PRE_FADER("before its fader"),
        POST_FADER("after its fader");

        private final String label;

        Point(String label) {
            this.label = label;
        }

        /** The words on screen. */
        public String label() {
            return label;
        }
    }
}
