package waterwheel.core.processing;

import waterwheel.core.inserts.Processor;

/** What comes out of processors that answer to level, for steady levels; for drawing. */
public final class LevelCurve {
    private LevelCurve() {}

    /**
     * What comes out, in dBFS; of a compressor before its make-up gain, of a saturator the crest of a tone.
     *
     * @throws IllegalArgumentException if the processor does not answer to one level as a whole
     */
    public static double outputDb(Processor settings, double inputDb) {
        return switch (settings.kind()) {
            case COMPRESSOR -> Compression.outputDb(settings, inputDb);
            case GATE ->
                inputDb
                        - GateEffect.reductionDb(
                                inputDb,
                                settings.value("thresholdDb"),
                                settings.value("ratio"),
                                settings.value("rangeDb"));
            case LIMITER -> Math.min(inputDb + settings.value("gainDb"), settings.value("ceilingDb"));
            case SATURATOR -> SaturatorEffect.outputDb(settings, inputDb);
            case EQUALISER, MULTIBAND, STEREO, DELAY, REVERB, CONVOLUTION, TONE ->
                throw new IllegalArgumentException(
                        "settings: " + settings.kind() + " (expected: a processor that answers to one level)");
        };
    }

    /** What comes out of one band of a multiband compressor, 0 the lowest, in dBFS, with its make-up gain. */
    public static double bandOutputDb(Processor settings, int band, double inputDb) {
        Processor compressor = MultibandEffect.band(settings, band);
        return Compression.outputDb(compressor, inputDb) + compressor.value("makeUpDb");
    }
}
