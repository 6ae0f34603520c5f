package waterwheel.core.path;

/** A place in a channel at which its level is known, in signal order. */
public enum Stage {
    /** A track's files as they are, in their places. */
    SOURCE("Source"),
    /** After the clips' gains, gain curves and fades. */
    CLIPS("Clips"),
    /** The sum of what feeds a bus. */
    INPUT("Input"),
    /** After polarity and trim: what the inserts get. */
    TRIM("Trim"),
    /** What a hardware slot sends. */
    SENT("Sent"),
    /** What comes back to it, before its gain and its mix. */
    RETURNED("Returned"),
    /** After an insert. */
    INSERT("Insert"),
    /** After the fader. */
    FADER("Fader"),
    /** After the placement, left and right. */
    PLACEMENT("Placement"),
    /** What leaves the channel: silence while it is muted or others are soloed. */
    OUTPUT("Output");

    private final String label;

    Stage(String label) {
        this.label = label;
    }

    /** The word on screen. */
    public String label() {
        return label;
    }
}
