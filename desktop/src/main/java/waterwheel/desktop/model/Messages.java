package waterwheel.desktop.model;

/** Takes what the user should be told; nothing waits for an answer. */
public interface Messages {
    void tell(String sentence);
}
