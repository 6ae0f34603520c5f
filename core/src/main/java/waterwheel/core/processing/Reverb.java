package waterwheel.core.processing;

import static waterwheel.core.inserts.Parameter.built;
import static waterwheel.core.inserts.Parameter.range;

import waterwheel.core.inserts.Processor;
import waterwheel.core.inserts.ProcessorKind;

/** A reverb by a network of delays. */
public final class Reverb implements Descriptor {
    public static final ProcessorKind KIND = ProcessorKind.of(
            "reverb",
            "Reverb",
            range("decaySeconds", "Decay", "s", 0.1, 10, 1.8),
            built("preDelayMs", "Pre-delay", "ms", 0, 200, 15),
            built("sizePercent", "Size", "%", 10, 100, 60),
            range("dampingHz", "Damping", "Hz", 500, 20_000, 6_000));

    @Override
    public ProcessorKind kind() {
        return KIND;
    }

    @Override
    public Effect start(Processor settings, Site site) {
        return new ReverbEffect(settings.array(), site.sampleRateHz());
    }

    @Override
    public boolean replaces() {
        return true;
    }

    @Override
    public Picture picture(Processor settings, int sampleRateHz) {
        double high = settings.value("dampingHz");
        return new Picture.Tail(
                TimeCurve.lastingSeconds(settings),
                seconds -> TimeCurve.tailDb(settings, seconds, 0, sampleRateHz),
                seconds -> TimeCurve.tailDb(settings, seconds, high, sampleRateHz),
                high);
    }
}
