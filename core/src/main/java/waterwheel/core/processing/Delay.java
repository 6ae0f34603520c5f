package waterwheel.core.processing;

import static waterwheel.core.inserts.Parameter.built;
import static waterwheel.core.inserts.Parameter.choice;
import static waterwheel.core.inserts.Parameter.range;

import waterwheel.core.inserts.Processor;
import waterwheel.core.inserts.ProcessorKind;

/** Echoes. */
public final class Delay implements Descriptor {
    public static final ProcessorKind KIND = ProcessorKind.of(
            "delay",
            "Delay",
            built("timeMs", "Time", "ms", 1, 2_000, 350),
            range("feedbackPercent", "Feedback", "%", 0, 95, 30),
            range("dampingHz", "Damping", "Hz", 500, 20_000, 6_000),
            choice("sides", "Sides", 0, "straight", "crossed"));

    @Override
    public ProcessorKind kind() {
        return KIND;
    }

    @Override
    public Effect start(Processor settings, Site site) {
        return new DelayEffect(settings.array(), site);
    }

    @Override
    public boolean replaces() {
        return true;
    }

    @Override
    public Picture picture(Processor settings, int sampleRateHz) {
        return new Picture.Echoes(TimeCurve.lastingSeconds(settings), TimeCurve.echoes(settings));
    }
}
