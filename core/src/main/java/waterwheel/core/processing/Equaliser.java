package waterwheel.core.processing;

import static waterwheel.core.inserts.Parameter.choice;
import static waterwheel.core.inserts.Parameter.range;

import waterwheel.core.inserts.Processor;
import waterwheel.core.inserts.ProcessorKind;
import waterwheel.core.units.Decibels;

/** High- and low-pass, two shelves and two bells. */
public final class Equaliser implements Descriptor {
    public static final ProcessorKind KIND = ProcessorKind.of(
            "equaliser",
            "Equaliser",
            range("highPassHz", "High-pass", "Hz", 10, 2_000, 10),
            choice("highPassSlope", "High-pass slope", 0, "off", "12 dB/oct", "24 dB/oct"),
            range("lowShelfHz", "Low shelf", "Hz", 20, 2_000, 120),
            range("lowShelfDb", "Low shelf gain", "dB", -24, 24, 0),
            range("bell1Hz", "Bell 1", "Hz", 20, 20_000, 400),
            range("bell1Db", "Bell 1 gain", "dB", -24, 24, 0),
            range("bell1Q", "Bell 1 Q", "", 0.1, 20, 1),
            range("bell2Hz", "Bell 2", "Hz", 20, 20_000, 2_500),
            range("bell2Db", "Bell 2 gain", "dB", -24, 24, 0),
            range("bell2Q", "Bell 2 Q", "", 0.1, 20, 1),
            range("highShelfHz", "High shelf", "Hz", 500, 20_000, 8_000),
            range("highShelfDb", "High shelf gain", "dB", -24, 24, 0),
            range("lowPassHz", "Low-pass", "Hz", 500, 22_000, 20_000),
            choice("lowPassSlope", "Low-pass slope", 0, "off", "12 dB/oct", "24 dB/oct"));

    @Override
    public ProcessorKind kind() {
        return KIND;
    }

    @Override
    public Effect start(Processor settings, Site site) {
        return new EqualiserEffect(settings.array(), site.sampleRateHz());
    }

    @Override
    public Picture picture(Processor settings, int sampleRateHz) {
        EqualiserEffect filters = new EqualiserEffect(settings.array(), sampleRateHz);
        return new Picture.ByFrequency(hertz -> Decibels.ofFactor(filters.magnitude(hertz)));
    }

    /** Gain at a frequency in dB. */
    public static double responseDb(Processor settings, double hertz, int sampleRateHz) {
        return Decibels.ofFactor(new EqualiserEffect(settings.array(), sampleRateHz).magnitude(hertz));
    }
}
