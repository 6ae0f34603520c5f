package waterwheel.core.session;

/** When what comes in is heard through the track that it feeds. */
public enum Listen {
    NEVER("never"),
    /** While the song stands, and while the track is being recorded. */
    BETWEEN("while it does not play back"),
    ALWAYS("always");

    private final String label;

    Listen(String label) {
        this.label = label;
    }

    /** The words on screen and in the session file. */
    public String label() {
        return label;
    }

    /**
     * Whether it is heard now.
     *
     * @param playsBack whether the song runs and the track is not being recorded
     */
    public boolean hears(boolean playsBack) {
        return this == ALWAYS || (this == BETWEEN && !playsBack);
    }
}
