package waterwheel.core.processing;

import waterwheel.core.inserts.Processor;

/**
 * What a compressor's settings mean: its static curve. Giannoulis, Massberg, Reiss, Digital Dynamic Range Compressor
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
