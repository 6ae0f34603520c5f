package waterwheel.core.stems;

/** What the processors of buses do with a stem that is only a part of what comes together there. */
public enum Treatment {
    /**
     * Compressors, limiters, gates and whatever else multiplies by a gain turn each stem as they turn the whole, sample by
     * sample: so the stems add up to the mix.
     */
    AS_MIX("mix"),
    /** They answer to each stem as if nothing else were there. */
    ALONE("alone");

    private final String label;

    Treatment(String label) {
        this.label = label;
    }

    /** The word on the command line. */
    public String label() {
        return label;
    }

    boolean sharesGain() {
        return this == AS_MIX;
    }
}
