package waterwheel.desktop.model;

/** Takes what the user should be told; nothing waits for an answer. */
public interface Messages {
    void tell(String sentence);

    /**
     * Says something that can be answered; it stays until it is, or until something else is said. Where nothing can be
     * chosen, it is only told.
     */
    default void offer(String sentence, Choice... choices) {
        tell(sentence);
    }

    /** Puts away what can be answered no more, because the session that it is about was closed. */
    default void withdraw() {}

    /** Something to choose: its name and what it does. */
    record Choice(String name, String tip, Runnable action) {
        /** Nothing is done. */
        static Choice leave() {
            return new Choice("Leave it", "Leave all as it is", () -> {});
        }
    }
}
