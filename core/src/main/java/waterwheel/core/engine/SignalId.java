package waterwheel.core.engine;

import waterwheel.core.session.ChannelId;

/**
 * Which signal of which channel.
 *
 * @param part which of several at the same point, such as an insert's slot; empty where there is one
 * @param whole whether, in the plan of a stem, it is the whole session's: there for keys and taps alone
 */
public record SignalId(ChannelId channel, Point point, String part, boolean whole) {
    /** Places in a channel where a signal of its own exists, beyond a gain on another one. */
    public enum Point {
        /** A track's files in their places as they are, where its clips' gains, curves or fades make a difference. */
        FILES,
        /** The clips of a track that an input feeds. */
        RECORDED,
        /** What comes in by a track's inputs, whether or not it is heard. */
        INCOMING,
        /**
         * A track's clips, summed on the song's line; a gain that all of them share is not in it yet. Of one that an input
         * feeds, what is heard of both.
         */
        SOURCE,
        /** The sum of what feeds a bus. */
        INPUT,
        /** A channel's frozen sound. */
        FROZEN,
        /** What a print is of. */
        PRINTED,
        /** After an insert. */
        INSERT,
        /** What a hardware slot sends. */
        SENT,
        /** What comes back to it. */
        RETURNED,
        /** What came back, in time to a fraction of a frame. */
        ALIGNED,
        /** The sum of what an insert listens to at its key input, as many planes as its channel has. */
        KEY,
        /** What a bus's processor hears of the whole session, in the plan of a stem, to turn the stem by the same gain. */
        SHARED,
        /** A stereo channel after a placement that mixes its sides. */
        PLACED,
        /** Behind a gain that moves in time; the part tells which. */
        RIDDEN,
        /** Another signal, later, so that it arrives with those that a processor held up. */
        DELAYED,
        /** The main bus after its fader: the mix. */
        OUTPUT,
        /** The sum of what goes to a stereo pair of the audio interface; the pair's number is the part. */
        PAIR,
        /** The mix and the cues: what is heard while working. */
        MONITOR
    }

    public SignalId(ChannelId channel, Point point, String part) {
        this(channel, point, part, false);
    }

    public SignalId(ChannelId channel, Point point) {
        this(channel, point, "");
    }
}
