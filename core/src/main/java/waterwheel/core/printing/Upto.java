package waterwheel.core.printing;

/** Up to where of a channel's way a print goes. What is in it is at rest on the new track; what is behind goes over. */
public enum Upto {
    /** A slot, or the trim. */
    SLOT("slot"),
    /** The fader with what moves it, and the VCAs over it. */
    FADER("fader"),
    /** Also the placement, left and right. */
    PLACEMENT("placement"),
    /** Also the mute. */
    MUTE("mute");

    private final String label;

    Upto(String label) {
        this.label = label;
    }

    /** The word on screen and on the command line. */
    public String label() {
        return label;
    }

    boolean holds(Upto other) {
        return compareTo(other) >= 0;
    }
}
