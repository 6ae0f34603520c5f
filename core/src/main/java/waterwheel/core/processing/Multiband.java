package waterwheel.core.processing;

import static waterwheel.core.inserts.Parameter.range;

import java.util.List;
import waterwheel.core.inserts.Processor;
import waterwheel.core.inserts.ProcessorKind;

/** A compressor for each of three bands. */
public final class Multiband implements Descriptor {
    public static final ProcessorKind KIND = ProcessorKind.of(
            "multiband",
            "Multiband compressor",
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
            range("highMakeUpDb", "High make-up", "dB", 0, 24, 0));

    @Override
    public ProcessorKind kind() {
        return KIND;
    }

    @Override
    public Effect start(Processor settings, Site site) {
        return new MultibandEffect(settings.array(), site);
    }

    @Override
    public boolean answersToLevel() {
        return true;
    }

    @Override
    public boolean sharesGain() {
        return true;
    }

    @Override
    public boolean turnsDown() {
        return true;
    }

    @Override
    public Picture picture(Processor settings, int sampleRateHz) {
        return new Picture.ByLevel(
                List.of(
                        level -> bandOutputDb(settings, 0, level),
                        level -> bandOutputDb(settings, 1, level),
                        level -> bandOutputDb(settings, 2, level)),
                "low full, mid dashed, high dotted");
    }

    /** What comes out of one band for a steady level, 0 the lowest, in dBFS, with its make-up gain. */
    public static double bandOutputDb(Processor settings, int band, double inputDb) {
        double[] compressor = new double[Compressor.KIND.parameters().size()];
        MultibandEffect.band(settings.array(), band, compressor);
        return inputDb
                - Compressor.reductionDb(
                        inputDb,
                        compressor[Compressor.KIND.index("thresholdDb")],
                        compressor[Compressor.KIND.index("ratio")],
                        compressor[Compressor.KIND.index("kneeDb")])
                + compressor[Compressor.KIND.index("makeUpDb")];
    }
}
