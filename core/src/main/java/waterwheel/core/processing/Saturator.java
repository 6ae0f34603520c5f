package waterwheel.core.processing;

import static waterwheel.core.inserts.Parameter.choice;
import static waterwheel.core.inserts.Parameter.range;

import java.util.List;
import waterwheel.core.inserts.Processor;
import waterwheel.core.inserts.ProcessorKind;
import waterwheel.core.units.Decibels;

/** A saturator: bends towards a level 18 dB above its reference. */
public final class Saturator implements Descriptor {
    public static final ProcessorKind KIND = ProcessorKind.of(
            "saturator",
            "Saturator",
            range("driveDb", "Drive", "dB", -12, 36, 6),
            range("referenceDbfs", "Reference", "dBFS", -24, 0, -18),
            choice("shape", "Shape", 0, "soft", "clip"));

    @Override
    public ProcessorKind kind() {
        return KIND;
    }

    @Override
    public Effect start(Processor settings, Site site) {
        return new SaturatorEffect(settings.array(), site);
    }

    @Override
    public int latencyFrames(Processor settings, int sampleRateHz) {
        return Oversampler.LATENCY_FRAMES;
    }

    @Override
    public boolean planesApart() {
        return true;
    }

    @Override
    public boolean answersToLevel() {
        return true;
    }

    @Override
    public Picture picture(Processor settings, int sampleRateHz) {
        return new Picture.ByLevel(List.of(level -> outputDb(settings, level)), "");
    }

    /** What the crest of a steady tone becomes, in dBFS; the shape alone, without the filters around it. */
    static double outputDb(Processor settings, double inputDb) {
        double end = Decibels.toFactor(settings.value("referenceDbfs") + SaturatorEffect.ROOM_DB);
        double driven = Decibels.toFactor(inputDb + settings.value("driveDb"));
        return Decibels.ofFactor(settings.choice("shape") == 0 ? end * Math.tanh(driven / end) : Math.min(end, driven));
    }
}
