package waterwheel.cli;

import picocli.CommandLine.ITypeConverter;
import picocli.CommandLine.Option;
import picocli.CommandLine.TypeConversionException;
import waterwheel.core.stems.StemRequest;

/** How long rendered files go on after the song's end, as every rendering command takes it. */
final class TailOption {
    @Option(
            names = "--tail",
            paramLabel = "SECONDS",
            converter = Converter.class,
            description =
                    "How long the files go on after the song's end, for reverbs to die away: 0 to 60. Default: 0.")
    double seconds;

    /** Reads a length within its range. */
    static final class Converter implements ITypeConverter<Double> {
        @Override
        public Double convert(String text) {
            try {
                double value = Double.parseDouble(text);
                if (value >= 0 && value <= StemRequest.MOST_TAIL_SECONDS) {
                    return value;
                }
            } catch (NumberFormatException e) {
                // Said below, as for a number out of range.
            }
            throw new TypeConversionException("'" + text + "' is not a number of seconds from 0 to 60");
        }
    }
}
