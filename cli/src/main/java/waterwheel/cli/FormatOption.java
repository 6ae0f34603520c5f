package waterwheel.cli;

import picocli.CommandLine.ITypeConverter;
import picocli.CommandLine.Option;
import picocli.CommandLine.TypeConversionException;
import waterwheel.core.audiofile.SampleEncoding;

/** The format of what is rendered, as every rendering command takes it. */
final class FormatOption {
    @Option(
            names = "--format",
            paramLabel = "16|24|32f",
            converter = Converter.class,
            description = "WAV 16 or 24-bit with TPDF dither, or 32-bit float. Default: 24.")
    SampleEncoding encoding = SampleEncoding.PCM_24;

    /** Reads a format as it is said. */
    static final class Converter implements ITypeConverter<SampleEncoding> {
        @Override
        public SampleEncoding convert(String text) {
            return switch (text) {
                case "16" -> SampleEncoding.PCM_16;
                case "24" -> SampleEncoding.PCM_24;
                case "32f" -> SampleEncoding.FLOAT_32;
                default -> throw new TypeConversionException("'" + text + "' is not 16, 24 or 32f");
            };
        }
    }
}
