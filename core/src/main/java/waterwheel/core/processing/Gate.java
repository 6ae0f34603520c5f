package waterwheel.core.processing;

import static waterwheel.core.inserts.Parameter.range;

import java.util.List;
import waterwheel.core.inserts.Processor;
import waterwheel.core.inserts.ProcessorKind;

/** An expander or gate. */
public final class Gate implements Descriptor {
    public static final ProcessorKind KIND = ProcessorKind.of(
                    "gate",
                    "Gate",
                    range("thresholdDb", "Threshold", "dBFS", -80, 0, -40),
                    range("ratio", "Ratio", "", 1, 20, 4),
                    range("rangeDb", "Range", "dB", 0, 80, 40),
                    range("attackMs", "Attack", "ms", 0.05, 100, 1),
                    range("holdMs", "Hold", "ms", 0, 2_000, 50),
                    range("releaseMs", "Release", "ms", 5, 3_000, 200),
                    range("keyHighPassHz", "Key high-pass", "Hz", 10, 2_000, 10))
            .withKeyInput();

    @Override
    public ProcessorKind kind() {
        return KIND;
    }

    @Override
    public Effect start(Processor settings, Site site) {
        return new GateEffect(settings.array(), site);
    }

    @Override
    public boolean remembersSilence() {
        return true;
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
    public boolean replaces() {
        return true;
    }

    @Override
    public Picture picture(Processor settings, int sampleRateHz) {
        return new Picture.ByLevel(
                List.of(level -> level
                        - GateEffect.reductionDb(
                                level,
                                settings.value("thresholdDb"),
                                settings.value("ratio"),
                                settings.value("rangeDb"))),
                "");
    }
}
