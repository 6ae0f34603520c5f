package waterwheel.core.rack;

/** Which way a port of the interface goes, seen from the computer. */
public enum PortSide {
    INPUT("Input"),
    OUTPUT("Output");

    private final String label;

    PortSide(String label) {
        this.label = label;
    }

    /** The word on screen. */
    public String label() {
        return label;
    }
}
