package waterwheel.core.processing;

import java.util.List;
import org.jspecify.annotations.Nullable;
import waterwheel.core.inserts.Processor;
import waterwheel.core.inserts.ProcessorKind;

/** A compressor for each of three bands. While none turns anything down, the whole is an all-pass: flat at every frequency. */
final class MultibandEffect implements Effect {
    /** How the settings of the bands begin, from low to high. */
    private static final List<String> BANDS = List.of("low", "mid", "high");

    private final Crossover crossover;
    private final CompressorEffect[] compressors = new CompressorEffect[Crossover.BANDS];
    private final float[][][] bands;

    MultibandEffect(Processor settings, int rate, int planes, int maxFrames) {
        double low = settings.value("lowHz");
        crossover = new Crossover(low, Math.max(low, settings.value("highHz")), rate);
        for (int b = 0; b < compressors.length; b++) {
            compressors[b] = new CompressorEffect(band(settings, b), rate, planes, maxFrames);
        }
        bands = new float[Crossover.BANDS][planes][maxFrames];
    }

    /** The compressor of a band, 0 the lowest. */
    static Processor band(Processor settings, int band) {
        String name = BANDS.get(band);
        return Processor.usual(ProcessorKind.COMPRESSOR)
                .with("thresholdDb", settings.value(name + "ThresholdDb"))
                .with("ratio", settings.value(name + "Ratio"))
                .with("attackMs", settings.value(name + "AttackMs"))
                .with("releaseMs", settings.value(name + "ReleaseMs"))
                .with("makeUpDb", settings.value(name + "MakeUpDb"))
                .with("kneeDb", settings.value("kneeDb"));
    }

    @Override
    public void process(float[][] signal, float @Nullable [] @Nullable [] key, int frames) {
        crossover.divide(signal, bands, frames);
        for (int b = 0; b < bands.length; b++) {
            compressors[b].process(bands[b], null, frames);
        }
        for (int p = 0; p < signal.length; p++) {
            float[] out = signal[p];
            float[] low = bands[0][p];
            float[] middle = bands[1][p];
            float[] high = bands[2][p];
            for (int i = 0; i < frames; i++) {
                out[i] = low[i] + middle[i] + high[i];
            }
        }
    }

    @Override
    public void reset() {
        crossover.reset();
        for (CompressorEffect compressor : compressors) {
            compressor.reset();
        }
    }

    @Override
    public void adopt(Effect other) {
        if (other instanceof MultibandEffect before) {
            crossover.adopt(before.crossover);
            for (int b = 0; b < compressors.length; b++) {
                compressors[b].adopt(before.compressors[b]);
            }
        }
    }

    /** The band that is turned down most. */
    @Override
    public double reductionDb() {
        double most = 0;
        for (CompressorEffect compressor : compressors) {
            most = Math.max(most, compressor.reductionDb());
        }
        return most;
    }
}
