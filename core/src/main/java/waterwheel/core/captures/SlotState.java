package waterwheel.core.captures;

/**
 * How it stands with the capture of a slot.
 *
 * @param madeOf what a capture of it would be made of now; empty where it cannot be captured
 */
public record SlotState(HardwareSlot slot, State state, String madeOf) {
    /** What there is to say of it. */
    public enum State {
        /** Nothing of it is heard: it is bypassed, mixed out, or its channel leads nowhere. */
        UNUSED("not heard"),
        /** What was captured is what would come back now. */
        FRESH("captured"),
        /** It has no ports. */
        UNPATCHED("not patched"),
        /** It was never captured. */
        MISSING("not captured"),
        /** It was captured when something else was sent, or by other ports. */
        STALE("out of date"),
        /** The recording's file is gone or was changed. */
        LOST("file missing");

        private final String label;

        State(String label) {
            this.label = label;
        }

        /** The words on screen. */
        public String label() {
            return label;
        }
    }

    /** Whether the session cannot be rendered as it is because of it. */
    public boolean open() {
        return state != State.UNUSED && state != State.FRESH;
    }

    /** Whether capturing it would help. */
    public boolean wanting() {
        return open() && state != State.UNPATCHED;
    }
}
