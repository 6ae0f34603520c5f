package waterwheel.core.audiofile;

import java.io.IOException;
import java.lang.foreign.Arena;
import java.lang.foreign.MemorySegment;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.List;
import java.util.OptionalInt;
import java.util.OptionalLong;
import org.jspecify.annotations.Nullable;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.units.SongLength;

/**
 * A FLAC file (RFC 9639), decoded once into a temporary file of plain samples, because its frames cannot be reached in
 * any order as mapped samples can. Where the encoder left a sum of the samples, it must hold; a file without one, as
 * recorders and streams leave them, is as valid. Tags of other kinds before and behind the stream are passed over.
 */
final class FlacFile implements AudioFile {
    private static final int BUFFER_BYTES = 1 << 18;
    /** A tag that old programs put at a file's end, and its first letters. */
    private static final int END_TAG_BYTES = 128;

    private static final String END_TAG = "TAG";
    private static final int MOST_SAMPLE_BITS = 24;

    private final Path path;
    private final Path decoded;
    private final PcmFile samples;

    private FlacFile(Path path, Path decoded, PcmFile samples) {
        this.path = path;
        this.decoded = decoded;
        this.samples = samples;
    }

    /** What is done with a mapped file. */
    private interface Reading<T> {
        T read(MemorySegment file) throws IOException, AudioFileException;
    }

    private static <T> T mapped(Path path, Reading<T> reading) throws IOException, AudioFileException {
        try (Arena arena = Arena.ofShared();
                FileChannel channel = FileChannel.open(path, StandardOpenOption.READ)) {
            return reading.read(channel.map(FileChannel.MapMode.READ_ONLY, 0, channel.size(), arena));
        }
    }

    static boolean recognises(Path path) throws IOException, AudioFileException {
        return mapped(path, file -> FlacStream.start(file) >= 0);
    }

    /** The rate that the metadata state; empty where they state none that can be. */
    static OptionalInt sampleRateHz(Path path) throws IOException, AudioFileException {
        int rate =
                mapped(path, file -> FlacStream.of(file, FlacStream.start(file)).sampleRateHz());
        return rate > 0 ? OptionalInt.of(rate) : OptionalInt.empty();
    }

    /** The comments in the metadata, as {@code NAME=value}; none where they cannot be read. */
    static List<String> comments(Path path) throws IOException, AudioFileException {
        return mapped(path, file -> FlacStream.of(file, FlacStream.start(file)).comments());
    }

    static FlacFile open(Path file) throws IOException, AudioFileException {
        Path decoded = Files.createTempFile("waterwheel", ".samples");
        boolean whole = false;
        try {
            AudioFormat format = mapped(file, memory -> decode(file, memory, decoded));
            PcmLayout layout = new PcmLayout(format, 0, ByteOrder.LITTLE_ENDIAN, false);
            PcmFile samples = PcmFile.open(decoded, (name, memory) -> layout);
            whole = true;
            return new FlacFile(file, decoded, samples);
        } finally {
            if (!whole) {
                Files.deleteIfExists(decoded);
            }
        }
    }

    private static AudioFormat decode(Path path, MemorySegment file, Path target) throws AudioFileException {
        try (FileChannel out = FileChannel.open(target, StandardOpenOption.WRITE)) {
            FlacStream stream = FlacStream.of(file, FlacStream.start(file));
            PcmLayout.check(path, stream.channels(), stream.sampleRateHz());
            if (stream.sampleBits() > MOST_SAMPLE_BITS) {
                throw new AudioFileException(
                        path, "holds samples of " + stream.sampleBits() + " bits.", "Export it with 24 bits or fewer.");
            }
            int bytes = Math.ceilDiv(stream.sampleBits(), Byte.SIZE);
            SampleEncoding encoding = SampleEncoding.pcm(bytes);
            if (encoding == null) {
                throw damaged(path, null);
            }
            long most = SongLength.mostFrames(stream.sampleRateHz());
            if (stream.frames() > most) {
                throw PcmLayout.tooLong(path);
            }
            Samples samples = new Samples(out, stream, bytes);
            FlacFrames frames = new FlacFrames(file, stream.audioAt(), stream.channels(), stream.sampleBits());
            long count = 0;
            while (frames.atFrame()) {
                frames.next();
                count += frames.frames();
                if (count > (stream.frames() > 0 ? stream.frames() : most)) {
                    throw damaged(path, null);
                }
                samples.write(frames.samples(), frames.frames());
            }
            boolean ended = stream.frames() > 0 ? count == stream.frames() : endsAt(file, frames.bytePosition());
            if (!ended || (stream.hasDigest() && !stream.digest().equals(samples.digest()))) {
                throw damaged(path, null);
            }
            return new AudioFormat(
                    count,
                    stream.channels(),
                    stream.sampleRateHz(),
                    encoding,
                    false,
                    OptionalLong.empty(),
                    Speaker.ofMask(stream.channelMask(), stream.channels()));
        } catch (IOException | RuntimeException e) {
            throw damaged(path, e);
        }
    }

    /** Whether nothing but a tag stands behind the audio. */
    private static boolean endsAt(MemorySegment file, long at) {
        FileBytes bytes = new FileBytes(file, ByteOrder.BIG_ENDIAN);
        long left = bytes.size() - at;
        return left == 0 || (left == END_TAG_BYTES && bytes.id(at).startsWith(END_TAG));
    }

    private static AudioFileException damaged(Path file, @Nullable Throwable cause) {
        String problem = "is a FLAC file that is damaged: its audio does not decode to what was put in.";
        String remedy = "Copy or export it again.";
        return cause == null
                ? new AudioFileException(file, problem, remedy)
                : new AudioFileException(file, problem, remedy, cause);
    }

    /** Writes decoded blocks as interleaved little-endian samples, and sums them up. */
    private static final class Samples {
        private final FileChannel out;
        private final int channels;
        private final int bytes;
        private final boolean summed;
        /** How many bits a sample is moved up to fill its bytes; the sum is of samples that are not. */
        private final int shift;

        private final MessageDigest md5 = md5();
        private final ByteBuffer buffer = ByteBuffer.allocate(BUFFER_BYTES);

        Samples(FileChannel out, FlacStream stream, int bytes) {
            this.out = out;
            this.channels = stream.channels();
            this.bytes = bytes;
            summed = stream.hasDigest();
            shift = Byte.SIZE * bytes - stream.sampleBits();
        }

        void write(int[][] block, int frames) throws IOException {
            int most = BUFFER_BYTES / (channels * bytes);
            for (int at = 0; at < frames; at += most) {
                int end = Math.min(frames, at + most);
                if (summed) {
                    put(block, at, end, 0);
                    md5.update(buffer.flip());
                }
                if (!summed || shift > 0) {
                    put(block, at, end, shift);
                    buffer.flip();
                }
                buffer.rewind();
                while (buffer.hasRemaining()) {
                    out.write(buffer);
                }
            }
        }

        private void put(int[][] block, int from, int to, int up) {
            byte[] array = buffer.clear().array();
            int place = 0;
            for (int i = from; i < to; i++) {
                for (int c = 0; c < channels; c++) {
                    int sample = block[c][i] << up;
                    for (int b = 0; b < bytes; b++) {
                        array[place++] = (byte) (sample >> (Byte.SIZE * b));
                    }
                }
            }
            buffer.position(place);
        }

        String digest() {
            return HexFormat.of().formatHex(md5.digest());
        }

        private static MessageDigest md5() {
            try {
                return MessageDigest.getInstance("MD5");
            } catch (NoSuchAlgorithmException e) {
                throw new IllegalStateException("Every Java platform has MD5.", e);
            }
        }
    }

    @Override
    public Path path() {
        return path;
    }

    @Override
    public AudioFormat format() {
        return samples.format();
    }

    @Override
    public Reader reader(int maxFrames) {
        return samples.reader(maxFrames);
    }

    @Override
    public void close() {
        samples.close();
        try {
            Files.deleteIfExists(decoded);
        } catch (IOException e) {
            decoded.toFile().deleteOnExit();
        }
    }
}
