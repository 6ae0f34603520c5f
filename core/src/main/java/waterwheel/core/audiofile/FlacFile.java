package waterwheel.core.audiofile;

import java.io.BufferedInputStream;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.SequenceInputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.Arrays;
import java.util.OptionalLong;
import org.jflac.FLACDecoder;
import org.jflac.frame.Frame;
import org.jflac.metadata.StreamInfo;
import org.jspecify.annotations.Nullable;
import waterwheel.core.errors.AudioFileException;

/**
 * A FLAC file (RFC 9639), decoded once into a temporary file of plain samples, because its frames cannot be reached in
 * any order as mapped samples can. The checksum that the encoder left in the file must hold.
 */
final class FlacFile implements AudioFile {
    private static final byte[] MARK = "fLaC".getBytes(StandardCharsets.US_ASCII);
    private static final int STREAM_INFO_BYTES = 34;
    private static final int LAST_BLOCK = 0x80;
    /** Place and length of the MD5 of the decoded samples in the first metadata block. */
    private static final int DIGEST_AT = 26;

    private static final int DIGEST_BYTES = 16;
    private static final int BUFFER_BYTES = 1 << 16;
    /** A file that does not say how long it is may not decode to more than a day. */
    private static final long MOST_SECONDS = 86_400;

    private final Path path;
    private final Path decoded;
    private final PcmFile samples;

    private FlacFile(Path path, Path decoded, PcmFile samples) {
        this.path = path;
        this.decoded = decoded;
        this.samples = samples;
    }

    static boolean recognises(Path file) throws IOException {
        return Arrays.equals(beginning(file, MARK.length), MARK);
    }

    /** The rate that the first metadata block states: 20 bits, ten bytes into it. */
    static int sampleRateHz(Path file) throws IOException {
        byte[] bytes = beginning(file, DIGEST_AT);
        return bytes.length < DIGEST_AT
                ? 0
                : (bytes[18] & 0xFF) << 12 | (bytes[19] & 0xFF) << 4 | (bytes[20] & 0xFF) >> 4;
    }

    private static byte[] beginning(Path file, int bytes) throws IOException {
        try (InputStream in = Files.newInputStream(file)) {
            return in.readNBytes(bytes);
        }
    }

    static FlacFile open(Path file) throws IOException, AudioFileException {
        Path decoded = Files.createTempFile("waterwheel", ".samples");
        boolean whole = false;
        try {
            AudioFormat format = decode(file, decoded);
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

    private static AudioFormat decode(Path file, Path target) throws IOException, AudioFileException {
        try (InputStream in = withoutComments(new BufferedInputStream(Files.newInputStream(file), BUFFER_BYTES));
                FileChannel out = FileChannel.open(target, StandardOpenOption.WRITE)) {
            FLACDecoder decoder = new FLACDecoder(in);
            decoder.readMetadata();
            StreamInfo info = decoder.getStreamInfo();
            if (info == null) {
                throw damaged(file, null);
            }
            PcmLayout.check(file, info.getChannels(), info.getSampleRate());
            int bytes = (info.getBitsPerSample() + 7) / 8;
            SampleEncoding encoding = SampleEncoding.pcm(bytes);
            if (encoding == null || encoding == SampleEncoding.PCM_32) {
                throw new AudioFileException(
                        file,
                        "holds samples of " + info.getBitsPerSample() + " bits.",
                        "Export it with 24 bits or fewer.");
            }
            long stated = info.getTotalSamples();
            long most = stated > 0 ? stated : MOST_SECONDS * info.getSampleRate();
            Samples samples = new Samples(out, bytes, 8 * bytes - info.getBitsPerSample());
            long frames = 0;
            for (Frame frame = decoder.readNextFrame(); frame != null; frame = decoder.readNextFrame()) {
                frames += frame.header.blockSize;
                if (frames > most || frame.header.channels != info.getChannels()) {
                    throw damaged(file, null);
                }
                samples.write(decoder, frame);
            }
            samples.flush();
            byte[] digest = digest(file);
            boolean checked = info.getBitsPerSample() % 8 == 0 && !Arrays.equals(digest, new byte[DIGEST_BYTES]);
            if (decoder.getBadFrames() > 0 || (checked && !Arrays.equals(digest, samples.digest()))) {
                throw damaged(file, null);
            }
            return new AudioFormat(
                    frames, info.getChannels(), info.getSampleRate(), encoding, frames < stated, OptionalLong.empty());
        } catch (RuntimeException | IOException e) {
            // The decoder answers to damage with whatever exception it runs into.
            throw damaged(file, e);
        }
    }

    /**
     * The stream as if its only metadata were the description of the audio. Comments, pictures and cue sheets are of no
     * use here, and their stated lengths would be believed.
     */
    private static InputStream withoutComments(InputStream in) throws IOException {
        byte[] begin = in.readNBytes(MARK.length + 4 + STREAM_INFO_BYTES);
        if (begin.length < MARK.length + 4 + STREAM_INFO_BYTES
                || (begin[MARK.length] & ~LAST_BLOCK) != 0
                || begin[MARK.length + 3] != STREAM_INFO_BYTES) {
            throw new IOException("no description of the audio first");
        }
        boolean last = (begin[MARK.length] & LAST_BLOCK) != 0;
        while (!last) {
            byte[] header = in.readNBytes(4);
            if (header.length < 4) {
                throw new IOException("no audio after the metadata");
            }
            last = (header[0] & LAST_BLOCK) != 0;
            in.skipNBytes((header[1] & 0xFF) << 16 | (header[2] & 0xFF) << 8 | (header[3] & 0xFF));
        }
        begin[MARK.length] = (byte) LAST_BLOCK;
        return new SequenceInputStream(new ByteArrayInputStream(begin), in);
    }

    private static byte[] digest(Path file) throws IOException {
        byte[] bytes = beginning(file, DIGEST_AT + DIGEST_BYTES);
        return Arrays.copyOfRange(bytes, DIGEST_AT, DIGEST_AT + DIGEST_BYTES);
    }

    private static AudioFileException damaged(Path file, @Nullable Throwable cause) {
        String problem = "is a FLAC file that is damaged: its audio does not decode to what was put in.";
        String remedy = "Copy or export it again.";
        return cause == null
                ? new AudioFileException(file, problem, remedy)
                : new AudioFileException(file, problem, remedy, cause);
    }

    /** Writes decoded frames as interleaved little-endian samples, and sums them up. */
    private static final class Samples {
        private final FileChannel out;
        private final int bytes;
        private final int shift;
        private final MessageDigest md5 = md5();
        private ByteBuffer buffer = ByteBuffer.allocate(BUFFER_BYTES);

        /** @param shift how many bits a sample is moved up to fill its bytes */
        Samples(FileChannel out, int bytes, int shift) {
            this.out = out;
            this.bytes = bytes;
            this.shift = shift;
        }

        void write(FLACDecoder decoder, Frame frame) throws IOException {
            int channels = frame.header.channels;
            int wanted = frame.header.blockSize * channels * bytes;
            if (buffer.capacity() < wanted) {
                flush();
                buffer = ByteBuffer.allocate(wanted);
            } else if (buffer.remaining() < wanted) {
                flush();
            }
            for (int i = 0; i < frame.header.blockSize; i++) {
                for (int c = 0; c < channels; c++) {
                    int sample = decoder.getChannelData()[c].getOutput()[i] << shift;
                    for (int b = 0; b < bytes; b++) {
                        buffer.put((byte) (sample >> (8 * b)));
                    }
                }
            }
        }

        void flush() throws IOException {
            buffer.flip();
            md5.update(buffer.duplicate());
            while (buffer.hasRemaining()) {
                out.write(buffer);
            }
            buffer.clear();
        }

        byte[] digest() {
            return md5.digest();
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
