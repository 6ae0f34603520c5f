package waterwheel.core.processing;

import waterwheel.core.inserts.Processor;

/**
 * What the settings of processors mean that answer to level: their static curves. The compressor's after Giannoulis, Massberg, Reiss, Digital Dynamic Range Compressor
 * Design, J. Audio Eng. Soc. 60, 2012, equation 4.
 */
public final class Compression {
    private Compression() {}

    /** What comes out for a steady level, in dBFS, before the make-up gain; for drawing. */
    public static double outputDb(Processor settings, double inputDb) {
        return inputDb
                - reductionDb(
                        inputDb, settings.value("thresholdDb"), settings.value("ratio"), settings.value("kneeDb"));
    }

    /** What comes out of one band of a multiband compressor for a steady level, in dBFS, with its make-up gain. */
    public static double bandOutputDb(Processor settings, int band, double inputDb) {
        Processor compressor = MultibandEffect.band(settings, band);
        return outputDb(compressor, inputDb) + compressor.value("makeUpDb");
    }

    /** What comes out of a gate for a steady level, in dBFS. */
    public static double gateOutputDb(Processor settings, double inputDb) {
        double below = Math.max(0, settings.value("thresholdDb") - inputDb);
        return inputDb - Math.min(settings.value("rangeDb"), (settings.value("ratio") - 1) * below);
    }

    /** What comes out of a limiter for a steady level, in dBFS. */
    public static double limiterOutputDb(Processor settings, double inputDb) {
        return Math.min(inputDb + settings.value("gainDb"), settings.value("ceilingDb"));
    }

    /** What a saturator makes of the crest of a steady tone, in dBFS. */
    public static double saturatorOutputDb(Processor settings, double inputDb) {
        return SaturatorEffect.outputDb(settings, inputDb);
    }

    /** By how much a steady level is turned down, in dB, 0 or more. */
    static double reductionDb(double level, double threshold, double ratio, double knee) {
        double over = level - threshold;
        double slope = 1 - 1 / ratio;
        if (2 * over <= -knee) {
            return 0;
        }
        if (2 * over >= knee) {
            return slope * over;
        }
        return slope * (over + knee / 2) * (over + knee / 2) / (2 * knee);
    }
}
