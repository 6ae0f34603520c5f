package waterwheel.core.engine;

import waterwheel.core.session.ChannelId;

/** Which signal of which channel. */
public record SignalId(ChannelId channel, Point point) {
    /** Places in a channel where a signal of its own exists, beyond a gain on another one. */
    public enum Point {
        /** A track's files in their places as they are, where its clips' gains, curves or fades make a difference. */
        FILES,
        /** A track's clips, summed on the song's line; a gain that all of them share is not in it yet. */
        SOURCE,
        /** The sum of what feeds a bus. */
        INPUT,
        /** A stereo channel after a placement that mixes its sides. */
        PLACED,
        /** The main bus after its fader: the mix. */
        OUTPUT,
        /** The mix and the cues: what is heard while working. */
        MONITOR
    }
}
