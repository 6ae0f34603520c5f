package waterwheel.core.audiofile;

import static java.lang.foreign.ValueLayout.JAVA_BYTE;

import java.lang.foreign.MemorySegment;
import java.lang.foreign.ValueLayout;
import java.nio.ByteOrder;
import java.nio.file.Path;
import org.jspecify.annotations.Nullable;
import waterwheel.core.errors.AudioFileException;

/**
 * What a WAV file's chunks say, every length checked against the file's real end.
 *
 * @param dataOffset where the samples begin, in bytes from the start of the file
 */
record WavHeader(AudioFormat format, long dataOffset) {
    private static final ValueLayout.OfInt INT = ValueLayout.JAVA_INT_UNALIGNED.withOrder(ByteOrder.LITTLE_ENDIAN);
    private static final ValueLayout.OfShort SHORT =
            ValueLayout.JAVA_SHORT_UNALIGNED.withOrder(ByteOrder.LITTLE_ENDIAN);
    private static final int PCM = 1;
    private static final int IEEE_FLOAT = 3;
    private static final int EXTENSIBLE = 0xFFFE;

    /** The fields of a format chunk that matter. */
    private record FormatChunk(int channels, int sampleRateHz, SampleEncoding encoding) {}

    /**
     * Reads the chunks of a mapped file.
     *
     * @throws AudioFileException if this is no WAV file, or one of a form that cannot be read
     */
    static WavHeader parse(Path path, MemorySegment file) throws AudioFileException {
        if (file.byteSize() < 12 || !id(file, 0).equals("RIFF") || !id(file, 8).equals("WAVE")) {
            throw new AudioFileException(
                    path, "is not a WAV file.", "Export it again as WAV, 16, 24 or 32-bit, mono or stereo.");
        }
        FormatChunk format = null;
        long at = 12;
        while (at + 8 <= file.byteSize()) {
            String id = id(file, at);
            long stated = Integer.toUnsignedLong(file.get(INT, at + 4));
            long body = at + 8;
            long held = Math.min(stated, file.byteSize() - body);
            if (id.equals("fmt ")) {
                format = formatChunk(path, file.asSlice(body, held));
            } else if (id.equals("data")) {
                return new WavHeader(dataFormat(path, format, held, held < stated), body);
            }
            // Chunks are padded to an even length.
            at = body + stated + (stated & 1);
        }
        throw new AudioFileException(path, "holds no audio data.", "Export it again; this copy is incomplete.");
    }

    private static AudioFormat dataFormat(Path path, @Nullable FormatChunk format, long bytes, boolean truncated)
            throws AudioFileException {
        if (format == null) {
            throw new AudioFileException(path, "does not say how its samples are stored.", "Export it again as WAV.");
        }
        long frameBytes = (long) format.channels() * format.encoding().bytes();
        return new AudioFormat(
                bytes / frameBytes, format.channels(), format.sampleRateHz(), format.encoding(), truncated);
    }

    private static FormatChunk formatChunk(Path path, MemorySegment chunk) throws AudioFileException {
        if (chunk.byteSize() < 16) {
            throw new AudioFileException(path, "has a damaged format description.", "Export it again as WAV.");
        }
        int tag = Short.toUnsignedInt(chunk.get(SHORT, 0));
        if (tag == EXTENSIBLE) {
            if (chunk.byteSize() < 26) {
                throw new AudioFileException(path, "has a damaged format description.", "Export it again as WAV.");
            }
            tag = Short.toUnsignedInt(chunk.get(SHORT, 24));
        }
        int channels = Short.toUnsignedInt(chunk.get(SHORT, 2));
        int rate = chunk.get(INT, 4);
        int blockBytes = Short.toUnsignedInt(chunk.get(SHORT, 12));
        int bits = Short.toUnsignedInt(chunk.get(SHORT, 14));
        if (channels != 1 && channels != 2) {
            throw new AudioFileException(path, "has " + channels + " channels.", "Split it into mono or stereo files.");
        }
        if (rate < 8_000 || rate > 384_000) {
            throw new AudioFileException(
                    path,
                    "states a sample rate of " + Integer.toUnsignedString(rate) + " Hz.",
                    "Export it at a rate from 8,000 to 384,000 Hz.");
        }
        SampleEncoding encoding = encoding(tag, bits);
        if (encoding == null || blockBytes != channels * encoding.bytes()) {
            throw new AudioFileException(
                    path,
                    "stores its samples in a form that Waterwheel does not read (format " + tag + ", " + bits
                            + " bits).",
                    "Export it as PCM 16, 24 or 32-bit or as float.");
        }
        return new FormatChunk(channels, rate, encoding);
    }

    private static @Nullable SampleEncoding encoding(int tag, int bits) {
        return switch (tag) {
            case PCM ->
                switch (bits) {
                    case 16 -> SampleEncoding.PCM_16;
                    case 24 -> SampleEncoding.PCM_24;
                    case 32 -> SampleEncoding.PCM_32;
                    default -> null;
                };
            case IEEE_FLOAT ->
                switch (bits) {
                    case 32 -> SampleEncoding.FLOAT_32;
                    case 64 -> SampleEncoding.FLOAT_64;
                    default -> null;
                };
            default -> null;
        };
    }

    private static String id(MemorySegment file, long at) {
        StringBuilder id = new StringBuilder(4);
        for (int i = 0; i < 4; i++) {
            id.append((char) (file.get(JAVA_BYTE, at + i) & 0xFF));
        }
        return id.toString();
    }
}
