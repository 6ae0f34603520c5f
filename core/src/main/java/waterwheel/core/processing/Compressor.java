package waterwheel.core.processing;

import static waterwheel.core.inserts.Parameter.choice;
import static waterwheel.core.inserts.Parameter.range;

import java.util.List;
import waterwheel.core.inserts.Processor;
import waterwheel.core.inserts.ProcessorKind;

/**
 * A compressor: its static curve is that of Giannoulis, Massberg, Reiss, Digital Dynamic Range Compressor Design, J. Audio
 * Eng. Soc. 60, 2012, equation 4.
 */
public final class Compressor implements Descriptor {
    public static final ProcessorKind KIND = ProcessorKind.of(
                    "compressor",
                    "Compressor",
                    range("thresholdDb", "Threshold", "dBFS", -60, 0, -24),
                    range("ratio", "Ratio", "", 1, 20, 4),
                    range("kneeDb", "Knee", "dB", 0, 24, 6),
                    range("attackMs", "Attack", "ms", 0.05, 200, 10),
                    range("releaseMs", "Release", "ms", 5, 3_000, 150),
                    range("makeUpDb", "Make-up", "dB", 0, 24, 0),
                    choice("detection", "Detection", 0, "peak", "RMS"),
                    range("keyHighPassHz", "Key high-pass", "Hz", 10, 2_000, 10))
            .withKeyInput();

    @Override
    public ProcessorKind kind() {
        return KIND;
    }

    @Override
    public Effect start(Processor settings, Site site) {
        return new CompressorEffect(settings.array(), site);
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
        return new Picture.ByLevel(List.of(level -> outputDb(settings, level)), "");
    }

    /** What comes out for a steady level, in dBFS, before the make-up gain. */
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
