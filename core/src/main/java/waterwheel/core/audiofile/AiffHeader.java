package waterwheel.core.audiofile;

import java.lang.foreign.MemorySegment;
import java.nio.ByteOrder;
import java.nio.file.Path;
import java.util.Locale;
import java.util.OptionalLong;
import org.jspecify.annotations.Nullable;
import waterwheel.core.errors.AudioFileException;

/**
 * Reads what the chunks of an AIFF or AIFF-C file say (Audio Interchange File Format 1.3, and its -C draft of 1991):
 * big-endian PCM, little-endian PCM (sowt) and float (fl32, fl64).
 */
final class AiffHeader {
    private static final int RATE_BIAS = 16_383 + 63;

    private final Path path;
    private final FileBytes file;
    private final boolean compressed;
    private @Nullable Common common;

    private AiffHeader(Path path, FileBytes file) {
        this.path = path;
        this.file = file;
        compressed = file.id(8).equals("AIFC");
    }

    /** The common chunk. */
    private record Common(int channels, long frames, int sampleRateHz, SampleEncoding encoding, ByteOrder order) {}

    static boolean recognises(MemorySegment file) {
        FileBytes bytes = new FileBytes(file, ByteOrder.BIG_ENDIAN);
        return bytes.holds(0, 12)
                && bytes.id(0).equals("FORM")
                && (bytes.id(8).equals("AIFF") || bytes.id(8).equals("AIFC"));
    }

    /**
     * Reads the chunks of a mapped file.
     *
     * @throws AudioFileException if it is of a form that cannot be read
     */
    static PcmLayout parse(Path path, MemorySegment file) throws AudioFileException {
        return new AiffHeader(path, new FileBytes(file, ByteOrder.BIG_ENDIAN)).parse();
    }

    private PcmLayout parse() throws AudioFileException {
        long dataAt = -1;
        long dataBytes = 0;
        long at = 12;
        while (file.holds(at, 8)) {
            long stated = file.unsignedInt(at + 4);
            long body = at + 8;
            FileBytes chunk = file.part(body, Math.min(stated, file.size() - body));
            switch (file.id(at)) {
                case "COMM" -> common = common(chunk);
                case "SSND" -> {
                    if (chunk.holds(0, 8)) {
                        dataAt = body + 8 + chunk.unsignedInt(0);
                        dataBytes = Math.max(0, body + chunk.size() - dataAt);
                    }
                }
                default -> {}
            }
            at = body + stated + (stated & 1);
        }
        Common found = common;
        if (found == null) {
            throw new AudioFileException(path, "does not say how its samples are stored.", "Export it again as WAV.");
        }
        if (dataAt < 0 || dataAt > file.size()) {
            if (found.frames() > 0) {
                throw new AudioFileException(path, "holds no audio data.", "Export it again; this copy is incomplete.");
            }
            dataAt = 0;
        }
        long frameBytes = (long) found.channels() * found.encoding().bytes();
        long frames = Math.min(found.frames(), dataBytes / frameBytes);
        AudioFormat format = new AudioFormat(
                frames,
                found.channels(),
                found.sampleRateHz(),
                found.encoding(),
                frames < found.frames(),
                OptionalLong.empty());
        return new PcmLayout(format, dataAt, found.order(), false);
    }

    private Common common(FileBytes chunk) throws AudioFileException {
        if (!chunk.holds(0, compressed ? 22 : 18)) {
            throw new AudioFileException(path, "has a damaged format description.", "Export it again as WAV.");
        }
        int channels = chunk.unsignedShort(0);
        double rate = extended(chunk, 8);
        PcmLayout.check(path, channels, rate);
        int bits = chunk.unsignedShort(6);
        String kind = compressed ? chunk.id(18).toLowerCase(Locale.ROOT) : "none";
        SampleEncoding encoding =
                switch (kind) {
                    // Samples fill whole bytes from the upper end.
                    case "none", "twos", "sowt" -> SampleEncoding.pcm((bits + 7) / 8);
                    case "fl32" -> SampleEncoding.FLOAT_32;
                    case "fl64" -> SampleEncoding.FLOAT_64;
                    default -> null;
                };
        if (encoding == null) {
            throw new AudioFileException(
                    path,
                    "stores its samples in a form that Waterwheel does not read (" + kind.replaceAll("[^ -~]", "?")
                            + ", " + bits + " bits).",
                    "Export it as WAV or as AIFF without compression.");
        }
        ByteOrder order = kind.equals("sowt") ? ByteOrder.LITTLE_ENDIAN : ByteOrder.BIG_ENDIAN;
        return new Common(channels, chunk.unsignedInt(2), (int) rate, encoding, order);
    }

    /** An 80-bit IEEE 754 extended number: sign and exponent in 16 bits, then 64 bits of significand. */
    private static double extended(FileBytes chunk, long at) {
        int exponent = chunk.unsignedShort(at);
        double significand = chunk.unsignedInt(at + 2) * 0x1p32 + chunk.unsignedInt(at + 6);
        return exponent > 0x7FFF ? -1 : Math.scalb(significand, exponent - RATE_BIAS);
    }
}
