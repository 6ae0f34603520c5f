package waterwheel.core.processing;

import java.util.List;
import org.jspecify.annotations.Nullable;

/** A compressor for each of three bands. While none turns anything down, the whole is an all-pass: flat at every frequency. */
final class MultibandEffect implements Effect {
    private static final int LOW_HZ = Multiband.KIND.index("lowHz");
    private static final int HIGH_HZ = Multiband.KIND.index("highHz");
    private static final int KNEE = Multiband.KIND.index("kneeDb");
    /** The places of a band's settings, and those of a compressor's that they become. */
    private static final int[][] FROM = {places("low"), places("mid"), places("high")};

    private static final int[] TO = {
        Compressor.KIND.index("thresholdDb"),
        Compressor.KIND.index("ratio"),
        Compressor.KIND.index("attackMs"),
        Compressor.KIND.index("releaseMs"),
        Compressor.KIND.index("makeUpDb")
    };
    private static final int KNEE_TO = Compressor.KIND.index("kneeDb");
    private static final int KEY_TO = Compressor.KIND.index("keyHighPassHz");

    private final Crossover crossover;
    private final CompressorEffect[] compressors = new CompressorEffect[Crossover.BANDS];
    private final double[] compressor = new double[Compressor.KIND.parameters().size()];
    private final float[][][] bands;
    /** For what is listened to instead of the signal. */
    private final Crossover keyCrossover;

    private final float[][][] keyBands;

    MultibandEffect(double[] settings, Site site) {
        double low = settings[LOW_HZ];
        crossover = new Crossover(low, Math.max(low, settings[HIGH_HZ]), site.sampleRateHz());
        keyCrossover = new Crossover(low, Math.max(low, settings[HIGH_HZ]), site.sampleRateHz());
        keyBands = new float[Crossover.BANDS][site.planes()][site.maxFrames()];
        for (int b = 0; b < compressors.length; b++) {
            band(settings, b, compressor);
            compressors[b] = new CompressorEffect(compressor, site);
        }
        bands = new float[Crossover.BANDS][site.planes()][site.maxFrames()];
    }

    private static int[] places(String band) {
        return List.of("ThresholdDb", "Ratio", "AttackMs", "ReleaseMs", "MakeUpDb").stream()
                .mapToInt(name -> Multiband.KIND.index(band + name))
                .toArray();
    }

    /** Fills in a compressor's settings for a band, 0 the lowest. */
    static void band(double[] settings, int band, double[] compressor) {
        for (int i = 0; i < TO.length; i++) {
            compressor[TO[i]] = settings[FROM[band][i]];
        }
        compressor[KNEE_TO] = settings[KNEE];
        compressor[KEY_TO] = Compressor.KIND.parameters().get(KEY_TO).usual();
    }

    @Override
    public void move(double[] values, int frames) {
        crossover.move(values[LOW_HZ], Math.max(values[LOW_HZ], values[HIGH_HZ]), frames);
        keyCrossover.move(values[LOW_HZ], Math.max(values[LOW_HZ], values[HIGH_HZ]), frames);
        for (int b = 0; b < compressors.length; b++) {
            band(values, b, compressor);
            compressors[b].move(compressor, frames);
        }
    }

    @Override
    public void process(float[][] signal, float @Nullable [] @Nullable [] key, int frames) {
        crossover.divide(signal, bands, frames);
        if (key != null) {
            keyCrossover.divide(key, keyBands, frames);
        }
        for (int b = 0; b < bands.length; b++) {
            compressors[b].process(bands[b], key == null ? null : keyBands[b], frames);
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
        keyCrossover.reset();
        for (CompressorEffect compressor : compressors) {
            compressor.reset();
        }
    }

    @Override
    public void adopt(Effect other) {
        if (other instanceof MultibandEffect before) {
            crossover.adopt(before.crossover);
            keyCrossover.adopt(before.keyCrossover);
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
