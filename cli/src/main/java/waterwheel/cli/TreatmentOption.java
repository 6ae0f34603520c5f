package waterwheel.cli;

import java.util.Arrays;
import picocli.CommandLine.ITypeConverter;
import picocli.CommandLine.Option;
import picocli.CommandLine.TypeConversionException;
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
    static final class Words implements ITypeConverter<Treatment> {
        @Override
        public Treatment convert(String word) {
            return Arrays.stream(Treatment.values())
                    .filter(treatment -> treatment.label().equals(word))
                    .findFirst()
                    .orElseThrow(() -> new TypeConversionException("'" + word + "' is neither mix nor alone."));
        }
    }
}
