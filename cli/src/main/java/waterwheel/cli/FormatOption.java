package waterwheel.cli;

import picocli.CommandLine.ITypeConverter;
import picocli.CommandLine.TypeConversionException;
import waterwheel.core.audiofile.SampleEncoding;

/** Reads a render's format as it is said. */
final class FormatOption implements ITypeConverter<SampleEncoding> {
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
