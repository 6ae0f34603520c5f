package waterwheel.core.rack;

/** By what a session's audio goes in and out. */
public enum Driver {
    /** What the system has for everyone: its usual output. */
    SYSTEM("system output"),
    /** All ports of an interface, by a JACK server. */
    SERVER("sound server"),
    /** Eight inputs and outputs with simulated units plugged in. */
    SIMULATED("simulated interface");

    private final String label;

    Driver(String label) {
        this.label = label;
    }

    /** The words on screen and in the session file. */
    public String label() {
        return label;
    }
}
