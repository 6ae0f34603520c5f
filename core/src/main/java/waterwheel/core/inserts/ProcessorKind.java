package waterwheel.core.inserts;

import static waterwheel.core.inserts.Parameter.choice;
import static waterwheel.core.inserts.Parameter.range;

import java.util.List;

/** The kinds of processors with their parameters, in the order of their panels. */
public enum ProcessorKind {
    EQUALISER(
            "Equaliser",
            false,
            range("highPassHz", "High-pass", "Hz", 10, 2_000, 10),
            choice("highPassSlope", "High-pass slope", 0, "off", "12 dB/oct", "24 dB/oct"),
            range("lowShelfHz", "Low shelf", "Hz", 20, 2_000, 120),
            range("lowShelfDb", "Low shelf gain", "dB", -24, 24, 0),
            range("bell1Hz", "Bell 1", "Hz", 20, 20_000, 400),
            range("bell1Db", "Bell 1 gain", "dB", -24, 24, 0),
            range("bell1Q", "Bell 1 Q", "", 0.1, 20, 1),
            range("bell2Hz", "Bell 2", "Hz", 20, 20_000, 2_500),
            range("bell2Db", "Bell 2 gain", "dB", -24, 24, 0),
            range("bell2Q", "Bell 2 Q", "", 0.1, 20, 1),
            range("highShelfHz", "High shelf", "Hz", 500, 20_000, 8_000),
            range("highShelfDb", "High shelf gain", "dB", -24, 24, 0),
            range("lowPassHz", "Low-pass", "Hz", 500, 22_000, 20_000),
            choice("lowPassSlope", "Low-pass slope", 0, "off", "12 dB/oct", "24 dB/oct")),
    COMPRESSOR(
            "Compressor",
            true,
            range("thresholdDb", "Threshold", "dBFS", -60, 0, -24),
            range("ratio", "Ratio", "", 1, 20, 4),
            range("kneeDb", "Knee", "dB", 0, 24, 6),
            range("attackMs", "Attack", "ms", 0.05, 200, 10),
            range("releaseMs", "Release", "ms", 5, 3_000, 150),
            range("makeUpDb", "Make-up", "dB", 0, 24, 0),
            choice("detection", "Detection", 0, "peak", "RMS"),
            range("keyHighPassHz", "Key high-pass", "Hz", 10, 2_000, 10)),
    MULTIBAND(
            "Multiband compressor",
            false,
            range("lowHz", "Low to mid", "Hz", 40, 1_000, 200),
            range("highHz", "Mid to high", "Hz", 1_000, 16_000, 3_000),
            range("kneeDb", "Knee", "dB", 0, 24, 6),
            range("lowThresholdDb", "Low threshold", "dBFS", -60, 0, -24),
            range("lowRatio", "Low ratio", "", 1, 20, 2),
            range("lowAttackMs", "Low attack", "ms", 0.05, 200, 30),
            range("lowReleaseMs", "Low release", "ms", 5, 3_000, 250),
            range("lowMakeUpDb", "Low make-up", "dB", 0, 24, 0),
            range("midThresholdDb", "Mid threshold", "dBFS", -60, 0, -24),
            range("midRatio", "Mid ratio", "", 1, 20, 2),
            range("midAttackMs", "Mid attack", "ms", 0.05, 200, 15),
            range("midReleaseMs", "Mid release", "ms", 5, 3_000, 150),
            range("midMakeUpDb", "Mid make-up", "dB", 0, 24, 0),
            range("highThresholdDb", "High threshold", "dBFS", -60, 0, -30),
            range("highRatio", "High ratio", "", 1, 20, 2),
            range("highAttackMs", "High attack", "ms", 0.05, 200, 5),
            range("highReleaseMs", "High release", "ms", 5, 3_000, 100),
            range("highMakeUpDb", "High make-up", "dB", 0, 24, 0)),
    GATE(
            "Gate",
            true,
            range("thresholdDb", "Threshold", "dBFS", -80, 0, -40),
            range("ratio", "Ratio", "", 1, 20, 4),
            range("rangeDb", "Range", "dB", 0, 80, 40),
            range("attackMs", "Attack", "ms", 0.05, 100, 1),
            range("holdMs", "Hold", "ms", 0, 2_000, 50),
            range("releaseMs", "Release", "ms", 5, 3_000, 200),
            range("keyHighPassHz", "Key high-pass", "Hz", 10, 2_000, 10)),
    LIMITER(
            "Limiter",
            false,
            range("ceilingDb", "Ceiling", "dBTP", -24, 0, -1),
            range("gainDb", "Drive", "dB", 0, 24, 0),
            range("lookAheadMs", "Look-ahead", "ms", 0.5, 10, 2),
            range("releaseMs", "Release", "ms", 5, 2_000, 100)),
    SATURATOR(
            "Saturator",
            false,
            range("driveDb", "Drive", "dB", -12, 36, 6),
            range("referenceDbfs", "Reference", "dBFS", -24, 0, -18),
            choice("shape", "Shape", 0, "soft", "clip")),
    STEREO(
            "Stereo tool",
            false,
            range("middleDb", "Middle", "dB", -24, 12, 0),
            range("sideDb", "Side", "dB", -24, 12, 0),
            choice("polarity", "Polarity", 0, "as it is", "left inverted", "right inverted", "both inverted"),
            range("delayMs", "Delay", "ms", 0, 100, 0)),
    DELAY(
            "Delay",
            false,
            range("timeMs", "Time", "ms", 1, 2_000, 350),
            range("feedbackPercent", "Feedback", "%", 0, 95, 30),
            range("dampingHz", "Damping", "Hz", 500, 20_000, 6_000),
            choice("sides", "Sides", 0, "straight", "crossed")),
    REVERB(
            "Reverb",
            false,
            range("decaySeconds", "Decay", "s", 0.1, 10, 1.8),
            range("preDelayMs", "Pre-delay", "ms", 0, 200, 15),
            range("sizePercent", "Size", "%", 10, 100, 60),
            range("dampingHz", "Damping", "Hz", 500, 20_000, 6_000)),
    CONVOLUTION("Convolution reverb", false, range("preDelayMs", "Pre-delay", "ms", 0, 200, 0)),
    TONE(
            "Test tone",
            false,
            choice("signal", "Signal", 0, "sine", "white noise", "pink noise"),
            range("frequencyHz", "Frequency", "Hz", 10, 20_000, 1_000),
            range("levelDb", "Level", "dBFS", -80, 0, -18));

    private final String label;
    private final boolean keyed;

    @SuppressWarnings("ImmutableEnumChecker") // the list cannot be changed
    private final List<Parameter> parameters;

    ProcessorKind(String label, boolean keyed, Parameter... parameters) {
        this.label = label;
        this.keyed = keyed;
        this.parameters = List.of(parameters);
    }

    /** The words on screen and in the session file. */
    public String label() {
        return label;
    }

    /** Whether it can listen to another signal than the one that it processes. */
    public boolean keyed() {
        return keyed;
    }

    /** Whether it works with an impulse response, one of the session's files. */
    public boolean responds() {
        return this == CONVOLUTION;
    }

    public List<Parameter> parameters() {
        return parameters;
    }

    /**
     * Returns a parameter by its key.
     *
     * @throws IllegalArgumentException if this kind has no such parameter
     */
    public Parameter parameter(String key) {
        return parameters.stream()
                .filter(p -> p.key().equals(key))
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException(
                        "key: '" + key + "' (expected: a parameter of the " + label + ")"));
    }
}
