package waterwheel.core.processing;

import static waterwheel.core.inserts.Parameter.built;
import static waterwheel.core.inserts.Parameter.choice;
import static waterwheel.core.inserts.Parameter.range;

import waterwheel.core.inserts.Processor;
import waterwheel.core.inserts.ProcessorKind;

/** A test signal in place of what comes in. */
public final class TestTone implements Descriptor {
    public static final ProcessorKind KIND = ProcessorKind.of(
            "tone",
            "Test tone",
            choice("signal", "Signal", 0, "sine", "white noise", "pink noise"),
            built("frequencyHz", "Frequency", "Hz", 10, 20_000, 1_000),
            range("levelDb", "Level", "dBFS", -80, 0, -18));

    @Override
    public ProcessorKind kind() {
        return KIND;
    }

    @Override
    public Effect start(Processor settings, Site site) {
        return new ToneEffect(settings.array(), site.sampleRateHz());
    }

    @Override
    public boolean sounds() {
        return true;
    }

    @Override
    public boolean answersToLevel() {
        return true;
    }

    @Override
    public boolean replaces() {
        return true;
    }
}
