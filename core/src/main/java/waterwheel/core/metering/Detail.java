package waterwheel.core.metering;

/** How much is gathered of a signal; each takes more time than the one before. */
public enum Detail {
    /** Peaks and energies: peak, average, noise floor, correlation. */
    LEVELS,
    /** And K-weighted energies: loudness. */
    LOUDNESS,
    /** And the true peak. */
    EVERYTHING
}
