package waterwheel.core.audiofile;

import java.io.IOException;
import java.lang.foreign.Arena;
import java.lang.foreign.MemorySegment;
import java.lang.foreign.ValueLayout;
import java.nio.ByteOrder;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Optional;
import java.util.OptionalLong;
import org.jspecify.annotations.Nullable;
import waterwheel.core.errors.AudioFileException;

/**
 * Reads what the chunks of a WAV file say, with its long forms RF64 and BW64 (EBU Tech 3306, ITU-R BS.2088) and the
 * Broadcast Wave chunk (EBU Tech 3285). Every length is checked against the file's real end; files whose lengths were
 * never filled in, because they were streamed, go to their end.
 */
final class WavHeader {
    private static final int PCM = 1;
    private static final int IEEE_FLOAT = 3;
    private static final int EXTENSIBLE = 0xFFFE;
    private static final long ALL_ONES = 0xFFFF_FFFFL;
    /** Place of the time reference in a Broadcast Wave chunk, after its five fields of text. */
    private static final int TIME_REFERENCE = 338;
    /** Place of its second field of text, and its length. */
    private static final int ORIGINATOR = 256;

    private static final int ORIGINATOR_BYTES = 32;

    private final Path path;
    private final FileBytes file;
    private @Nullable FormatChunk format;
    private OptionalLong longDataBytes = OptionalLong.empty();
    private OptionalLong timeReference = OptionalLong.empty();
    private String originator = "";

    private WavHeader(Path path, FileBytes file) {
        this.path = path;
        this.file = file;
    }

    /** The fields of a format chunk that matter. */
    private record FormatChunk(int channels, int sampleRateHz, SampleEncoding encoding, long mask) {}

    static boolean recognises(MemorySegment file) {
        FileBytes bytes = new FileBytes(file, ByteOrder.LITTLE_ENDIAN);
        if (!bytes.holds(0, 12) || !bytes.id(8).equals("WAVE")) {
            return false;
        }
        return switch (bytes.id(0)) {
            case "RIFF", "RF64", "BW64" -> true;
            default -> false;
        };
    }

    /**
     * Reads the chunks of a mapped file.
     *
     * @throws AudioFileException if it is of a form that cannot be read
     */
    static PcmLayout parse(Path path, MemorySegment file) throws AudioFileException {
        return new WavHeader(path, new FileBytes(file, ByteOrder.LITTLE_ENDIAN)).parse();
    }

    /** What is read of a mapped file. */
    interface Reading<T, E extends Exception> {
        T of(FileBytes file) throws E;
    }

    /** Reads something of a WAV file; {@code otherwise} for files of other kinds. */
    static <T, E extends Exception> T read(Path path, T otherwise, Reading<T, E> reading) throws IOException, E {
        try (Arena arena = Arena.ofConfined();
                FileChannel channel = FileChannel.open(path, StandardOpenOption.READ)) {
            MemorySegment file = channel.map(FileChannel.MapMode.READ_ONLY, 0, channel.size(), arena);
            return recognises(file) ? reading.of(new FileBytes(file, ByteOrder.LITTLE_ENDIAN)) : otherwise;
        }
    }

    /** Who made a Broadcast Wave file; empty where it does not say, and for files of other kinds. */
    static String originator(Path path) throws IOException, AudioFileException {
        return WavHeader.<String, AudioFileException>read(path, "", file -> {
            WavHeader header = new WavHeader(path, file);
            header.parse();
            return header.originator;
        });
    }

    /** What a chunk holds, wherever in the file it stands. */
    static Optional<FileBytes> chunk(FileBytes file, String id) {
        long dataBytes = ALL_ONES;
        long at = WavChunk.FIRST;
        while (WavChunk.isAt(file, at)) {
            WavChunk chunk = WavChunk.at(file, at);
            if (chunk.id().equals(id)) {
                return Optional.of(chunk.bytes());
            }
            if (chunk.id().equals("ds64")
                    && chunk.bytes().holds(0, 16)
                    && chunk.bytes().signedLong(8) >= 0) {
                dataBytes = chunk.bytes().signedLong(8);
            }
            boolean elsewhere = chunk.id().equals("data") && chunk.stated() == ALL_ONES;
            at = (elsewhere ? chunk.withLength(dataBytes) : chunk).next();
        }
        return Optional.empty();
    }

    private PcmLayout parse() throws AudioFileException {
        long at = WavChunk.FIRST;
        while (WavChunk.isAt(file, at)) {
            WavChunk found = WavChunk.at(file, at);
            FileBytes chunk = found.bytes();
            switch (found.id()) {
                case "fmt " -> format = formatChunk(chunk);
                case "ds64" -> {
                    if (chunk.holds(0, 24)) {
                        longDataBytes = OptionalLong.of(chunk.signedLong(8));
                    }
                }
                case "bext" -> {
                    originator = originator(chunk);
                    if (chunk.holds(TIME_REFERENCE, 8) && chunk.signedLong(TIME_REFERENCE) >= 0) {
                        timeReference = OptionalLong.of(chunk.signedLong(TIME_REFERENCE));
                    }
                }
                case "data" -> {
                    return data(found.stated(), found.body());
                }
                default -> {}
            }
            at = found.next();
        }
        throw new AudioFileException(path, "holds no audio data.", "Export it again; this copy is incomplete.");
    }

    private static String originator(FileBytes chunk) {
        if (!chunk.holds(ORIGINATOR, ORIGINATOR_BYTES)) {
            return "";
        }
        byte[] text = chunk.memory().asSlice(ORIGINATOR, ORIGINATOR_BYTES).toArray(ValueLayout.JAVA_BYTE);
        return new String(text, StandardCharsets.US_ASCII).split("\0", 2)[0].strip();
    }

    private PcmLayout data(long stated, long body) throws AudioFileException {
        FormatChunk found = format;
        if (found == null) {
            throw new AudioFileException(path, "does not say how its samples are stored.", "Export it again as WAV.");
        }
        long left = file.size() - body;
        boolean riff = file.id(0).equals("RIFF");
        long riffBytes = file.unsignedInt(4);
        boolean streamed = stated == ALL_ONES || (stated == 0 && (riffBytes + 8 <= body || riffBytes == ALL_ONES));
        long wanted = !riff && longDataBytes.isPresent() && stated == ALL_ONES
                ? longDataBytes.getAsLong()
                : riff && streamed ? left : stated;
        long bytes = wanted < 0 ? left : Math.min(wanted, left);
        long frameBytes = (long) found.channels() * found.encoding().bytes();
        AudioFormat audio = new AudioFormat(
                bytes / frameBytes,
                found.channels(),
                found.sampleRateHz(),
                found.encoding(),
                bytes < wanted,
                timeReference,
                Speaker.ofMask(found.mask(), found.channels()));
        return new PcmLayout(audio, body, ByteOrder.LITTLE_ENDIAN, true);
    }

    private FormatChunk formatChunk(FileBytes chunk) throws AudioFileException {
        if (!chunk.holds(0, 16)) {
            throw new AudioFileException(path, "has a damaged format description.", "Export it again as WAV.");
        }
        int tag = chunk.unsignedShort(0);
        long mask = 0;
        if (tag == EXTENSIBLE) {
            if (!chunk.holds(24, 2)) {
                throw new AudioFileException(path, "has a damaged format description.", "Export it again as WAV.");
            }
            tag = chunk.unsignedShort(24);
            mask = chunk.unsignedInt(20);
        }
        int channels = chunk.unsignedShort(2);
        long rate = chunk.unsignedInt(4);
        int blockBytes = chunk.unsignedShort(12);
        int bits = chunk.unsignedShort(14);
        PcmLayout.check(path, channels, (double) rate);
        SampleEncoding encoding = encoding(tag, bits, blockBytes / channels);
        if (encoding == null || blockBytes % channels != 0) {
            throw new AudioFileException(
                    path,
                    "stores its samples in a form that Waterwheel does not read (format " + tag + ", " + bits
                            + " bits).",
                    "Export it as PCM 16, 24 or 32-bit or as float.");
        }
        return new FormatChunk(channels, (int) rate, encoding, mask);
    }

    /** Fewer bits than the container has are its upper ones, so the container alone says how to read a sample. */
    private static @Nullable SampleEncoding encoding(int tag, int bits, int containerBytes) {
        if (bits < 1 || bits > 8 * containerBytes) {
            return null;
        }
        return switch (tag) {
            case PCM -> SampleEncoding.pcm(containerBytes);
            case IEEE_FLOAT ->
                switch (containerBytes) {
                    case 4 -> bits == 32 ? SampleEncoding.FLOAT_32 : null;
                    case 8 -> bits == 64 ? SampleEncoding.FLOAT_64 : null;
                    default -> null;
                };
            default -> null;
        };
    }
}
