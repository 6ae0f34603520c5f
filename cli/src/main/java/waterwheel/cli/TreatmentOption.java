package waterwheel.cli;

import picocli.CommandLine.Option;
import waterwheel.core.stems.Treatment;

/** The option that says what the processors of buses do with a stem. */
final class TreatmentOption {
    @Option(
            names = "--treat",
            paramLabel = "mix|alone",
            description =
                    "How compressors and the like on buses turn each stem. mix: as they turn the whole, so that stems"
                            + " add up; alone: as if nothing else were there. Usual: mix.",
            converter = Words.class)
    Treatment treatment = Treatment.AS_MIX;

    /** Understands the words of the treatments. */
    static final class Words extends WordIn<Treatment> {
        Words() {
            super(Treatment.values(), Treatment::label, "is neither mix nor alone.");
        }
    }
}
