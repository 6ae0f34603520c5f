package waterwheel.cli;

import java.util.Arrays;
import picocli.CommandLine.ITypeConverter;
import picocli.CommandLine.Option;
import picocli.CommandLine.TypeConversionException;
import waterwheel.core.audiofile.RenderFormat;

/** The format of what is rendered, as every rendering command takes it. */
final class FormatOption {
    @Option(
            names = "--format",
            paramLabel = "16|24|32f|flac16|flac24",
            converter = Converter.class,
            description = "WAV or FLAC of 16 or 24 bits with TPDF dither, or WAV of 32-bit float. Default: 24.")
    RenderFormat format = RenderFormat.WAV_24;

    /** Reads a format as it is said. */
    static final class Converter implements ITypeConverter<RenderFormat> {
        @Override
        public RenderFormat convert(String text) {
            return Arrays.stream(RenderFormat.values())
                    .filter(format -> format.option().equals(text))
                    .findFirst()
                    .orElseThrow(() ->
                            new TypeConversionException("'" + text + "' is not one of 16, 24, 32f, flac16, flac24"));
        }
    }
}
