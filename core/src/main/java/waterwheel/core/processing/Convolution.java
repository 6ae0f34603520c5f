package waterwheel.core.processing;

import static waterwheel.core.inserts.Parameter.built;

import waterwheel.core.inserts.Processor;
import waterwheel.core.inserts.ProcessorKind;

/** A reverb by convolution with an impulse response. */
public final class Convolution implements Descriptor {
    public static final ProcessorKind KIND = ProcessorKind.of(
                    "convolution", "Convolution reverb", built("preDelayMs", "Pre-delay", "ms", 0, 200, 0))
            .withResponse();

    @Override
    public ProcessorKind kind() {
        return KIND;
    }

    @Override
    public Effect start(Processor settings, Site site) {
        return new ConvolutionEffect(settings.array(), site);
    }

    @Override
    public boolean planesApart() {
        return true;
    }

    @Override
    public boolean replaces() {
        return true;
    }

    @Override
    public Picture picture(Processor settings, int sampleRateHz) {
        return new Picture.OfResponse(settings.value("preDelayMs") / 1_000);
    }
}
