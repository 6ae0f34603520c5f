package waterwheel.core.processing;

import static waterwheel.core.inserts.Parameter.built;
import static waterwheel.core.inserts.Parameter.range;

import java.util.List;
import waterwheel.core.inserts.Processor;
import waterwheel.core.inserts.ProcessorKind;

/** A look-ahead limiter for true peaks. */
public final class Limiter implements Descriptor {
    public static final ProcessorKind KIND = ProcessorKind.of(
            "limiter",
            "Limiter",
            range("ceilingDb", "Ceiling", "dBTP", -24, 0, -1),
            range("gainDb", "Drive", "dB", 0, 24, 0),
            built("lookAheadMs", "Look-ahead", "ms", 0.5, 10, 2),
            range("releaseMs", "Release", "ms", 5, 2_000, 100));

    @Override
    public ProcessorKind kind() {
        return KIND;
    }

    @Override
    public Effect start(Processor settings, Site site) {
        return new LimiterEffect(settings.array(), site);
    }

    @Override
    public int latencyFrames(Processor settings, int sampleRateHz) {
        return LimiterEffect.latencyFrames(settings.array(), sampleRateHz);
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
        return new Picture.ByLevel(
                List.of(level -> Math.min(level + settings.value("gainDb"), settings.value("ceilingDb"))), "");
    }
}
