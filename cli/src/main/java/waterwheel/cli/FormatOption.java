package waterwheel.cli;

import picocli.CommandLine.Option;
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
    static final class Converter extends WordIn<RenderFormat> {
        Converter() {
            super(RenderFormat.values(), RenderFormat::option, "is not one of 16, 24, 32f, flac16, flac24");
        }
    }
}
