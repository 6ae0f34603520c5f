package waterwheel.core.processing;

import static waterwheel.core.inserts.Parameter.built;
import static waterwheel.core.inserts.Parameter.choice;
import static waterwheel.core.inserts.Parameter.range;

import waterwheel.core.inserts.Processor;
import waterwheel.core.inserts.ProcessorKind;

/** Middle and side by gains of their own, polarity and delay. */
public final class StereoTool implements Descriptor {
    public static final ProcessorKind KIND = ProcessorKind.of(
            "stereo",
            "Stereo tool",
            range("middleDb", "Middle", "dB", -24, 12, 0),
            range("sideDb", "Side", "dB", -24, 12, 0),
            choice("polarity", "Polarity", 0, "as it is", "left inverted", "right inverted", "both inverted"),
            built("delayMs", "Delay", "ms", 0, 100, 0));

    @Override
    public ProcessorKind kind() {
        return KIND;
    }

    @Override
    public Effect start(Processor settings, Site site) {
        return new StereoEffect(settings.array(), site);
    }

    @Override
    public int latencyFrames(Processor settings, int sampleRateHz) {
        return StereoEffect.latencyFrames(settings.array(), sampleRateHz);
    }

    @Override
    public Picture picture(Processor settings, int sampleRateHz) {
        double[] gains = new double[4];
        StereoEffect.gains(settings.array(), 2, gains);
        return new Picture.Sides(gains[0], gains[1], gains[2], gains[3]);
    }
}
