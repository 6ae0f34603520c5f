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

    /** Something to choose: its name and what it does. */
    record Choice(String name, String tip, Runnable action) {}
}
