package waterwheel.core.audiofile;

import java.io.IOException;
import java.lang.foreign.MemorySegment;
import java.lang.foreign.ValueLayout;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.FloatBuffer;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.HexFormat;
import org.jspecify.annotations.Nullable;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.work.AsideFile;

/**
 * Writes a WAV file, past 4 GiB in the long form, RF64 (EBU Tech 3306). Fixed-point formats get TPDF dither unless their
 * samples are exact.
 */
public final class WavWriter implements AudioFileWriter {
    private static final ValueLayout.OfShort SHORT =
            ValueLayout.JAVA_SHORT_UNALIGNED.withOrder(ByteOrder.LITTLE_ENDIAN);
    private static final ValueLayout.OfInt INT = ValueLayout.JAVA_INT_UNALIGNED.withOrder(ByteOrder.LITTLE_ENDIAN);
    private static final int BUFFER_BYTES = 1 << 17;
    /** What the short form's lengths can say, less the chunks before the samples. */
    private static final long SHORT_FORM_BYTES = 0xFFFF_FFFFL - 1_024;

    private static final int CHUNK_HEADER = 8;
    private static final int LONG_SIZES = 28;
    private static final int ALL_ONES = -1;

    private static final int PCM_TAG = 1;
    private static final int FLOAT_TAG = 3;
    /** WAVE_FORMAT_EXTENSIBLE, for more than two channels. */
    private static final int WIDE_TAG = 0xFFFE;

    private static final int WIDE_FORMAT = 40;
    /** What makes a tag the identifier of its encoding. */
    private static final byte[] WIDE_SUFFIX = HexFormat.of().parseHex("000000001000800000aa00389b71");

    private final AsideFile file;
    private final FileChannel channel;
    private final ByteBuffer buffer = ByteBuffer.allocateDirect(BUFFER_BYTES).order(ByteOrder.LITTLE_ENDIAN);
    private final int[] steps = new int[BUFFER_BYTES / 2];
    // One more than fits the buffer: packing 24 bits writes 32 and lets the next sample overwrite the last byte.
    private final byte[] bytes = new byte[BUFFER_BYTES + 1];
    private final MemorySegment packed = MemorySegment.ofArray(bytes);
    private final int channels;
    private final int sampleRateHz;
    private final SampleEncoding encoding;
    private final StepRounding rounding;
    /** Past these it takes the long form. */
    private final long shortFormBytes;

    private final boolean growing;
    private boolean longForm;
    private final @Nullable BroadcastInfo about;
    private final FloatInterleaver interleaver = new FloatInterleaver();
    private long frames;
    private boolean finished;

    private WavWriter(
            AsideFile file,
            FileChannel channel,
            int channels,
            int rate,
            SampleEncoding encoding,
            boolean dithered,
            boolean longForm,
            long shortFormBytes,
            boolean growing,
            @Nullable BroadcastInfo about) {
        this.file = file;
        this.channel = channel;
        this.channels = channels;
        this.sampleRateHz = rate;
        this.encoding = encoding;
        this.longForm = longForm;
        this.shortFormBytes = shortFormBytes;
        this.growing = growing;
        this.about = about;
        rounding = new StepRounding(file.target(), channels, encoding, dithered);
    }

    /**
     * Starts a file.
     *
     * @param channels 1 to 8; from 3 on none of them belongs to a speaker
     * @param encoding PCM_16, PCM_24 or FLOAT_32
     * @param frames how long the file will be
     * @throws AudioFileException if the file cannot be written
     */
    public static WavWriter create(Path target, int channels, int sampleRateHz, SampleEncoding encoding, long frames)
            throws AudioFileException {
        return create(target, channels, sampleRateHz, encoding, frames, true, SHORT_FORM_BYTES, null);
    }

    /** Starts a Broadcast Wave file. */
    static WavWriter create(
            Path target, int channels, int sampleRateHz, SampleEncoding encoding, long frames, BroadcastInfo about)
            throws AudioFileException {
        return create(target, channels, sampleRateHz, encoding, frames, true, SHORT_FORM_BYTES, about);
    }

    /**
     * Starts a file for samples that the encoding holds exactly, as after a change of container: not dithered.
     *
     * @throws AudioFileException as {@link #create} does
     */
    public static WavWriter createExact(
            Path target, int channels, int sampleRateHz, SampleEncoding encoding, long frames)
            throws AudioFileException {
        return create(target, channels, sampleRateHz, encoding, frames, false, SHORT_FORM_BYTES, null);
    }

    /**
     * Starts a file of 32-bit floating-point samples under its own name, whose length nobody knows yet. What is in it up to
     * the last {@link #secure} can be read whatever happens after.
     *
     * @param channels 1 or 2
     * @throws AudioFileException if the file cannot be written, or there is one of that name
     */
    public static WavWriter createGrowing(Path target, int channels, int sampleRateHz) throws AudioFileException {
        return createGrowing(target, channels, sampleRateHz, SHORT_FORM_BYTES);
    }

    static WavWriter createGrowing(Path target, int channels, int sampleRateHz, long shortFormBytes)
            throws AudioFileException {
        try {
            FileChannel channel = FileChannel.open(target, StandardOpenOption.CREATE_NEW, StandardOpenOption.WRITE);
            WavWriter writer = new WavWriter(
                    new AsideFile(target, target),
                    channel,
                    channels,
                    sampleRateHz,
                    SampleEncoding.FLOAT_32,
                    false,
                    false,
                    shortFormBytes,
                    true,
                    null);
            writer.putHeader();
            writer.secure();
            return writer;
        } catch (IOException e) {
            throw AudioFileException.cannotWrite(target, e);
        }
    }

    /**
     * Has all that was written so far on the disk, with its length in the header.
     *
     * @throws AudioFileException if the disk refuses
     */
    public void secure() throws AudioFileException {
        try {
            flush();
            rewriteHeader();
            channel.force(false);
        } catch (IOException e) {
            throw AudioFileException.cannotWrite(file.target(), e);
        }
    }

    /** Starts a file with a given bound for the short form, so that the long one can be tried without 4 GiB. */
    static WavWriter create(
            Path target,
            int channels,
            int sampleRateHz,
            SampleEncoding encoding,
            long frames,
            boolean dithered,
            long shortFormBytes,
            @Nullable BroadcastInfo about)
            throws AudioFileException {
        boolean longForm = frames * channels * encoding.bytes() > shortFormBytes;
        AsideFile file = new AsideFile(target);
        try {
            FileChannel channel = FileChannel.open(
                    file.path(),
                    StandardOpenOption.CREATE,
                    StandardOpenOption.TRUNCATE_EXISTING,
                    StandardOpenOption.WRITE);
            WavWriter writer = new WavWriter(
                    file, channel, channels, sampleRateHz, encoding, dithered, longForm, shortFormBytes, false, about);
            writer.putHeader();
            return writer;
        } catch (IOException e) {
            throw AudioFileException.cannotWrite(file.target(), e);
        }
    }

    @Override
    public void write(float[][] planes, int from, int count) throws AudioFileException {
        try {
            for (int done = 0; done < count; ) {
                int frameBytes = channels * encoding.bytes();
                if (buffer.remaining() < frameBytes) {
                    flush();
                }
                int part = Math.min(count - done, buffer.remaining() / frameBytes);
                encode(planes, from + done, part);
                done += part;
            }
            frames += count;
        } catch (IOException e) {
            throw AudioFileException.cannotWrite(file.target(), e);
        }
    }

    @Override
    public long limitedSamples() {
        return rounding.limitedSamples();
    }

    @Override
    public void finish() throws AudioFileException {
        try {
            if ((frames * channels * encoding.bytes() & 1) == 1) {
                buffer.put((byte) 0);
            }
            flush();
            rewriteHeader();
            channel.close();
            file.complete();
            finished = true;
        } catch (IOException e) {
            throw AudioFileException.cannotWrite(file.target(), e);
        }
    }

    @Override
    public void close() throws AudioFileException {
        if (finished) {
            return;
        }
        try {
            if (growing && channel.isOpen()) {
                secure();
            }
            channel.close();
            if (!growing) {
                file.remove();
            }
        } catch (IOException e) {
            throw AudioFileException.cannotWrite(file.target(), e);
        }
    }

    private void encode(float[][] planes, int from, int count) {
        switch (encoding) {
            case FLOAT_32 -> {
                switch (channels) {
                    case 1 -> buffer.asFloatBuffer().put(planes[0], from, count);
                    case 2 -> interleaver.interleave(planes[0], planes[1], from, count, buffer);
                    default -> interleave(planes, from, count);
                }
                buffer.position(buffer.position() + count * channels * Float.BYTES);
            }
            case PCM_16, PCM_24 -> {
                for (int c = 0; c < channels; c++) {
                    rounding.round(planes[c], from, count, c, steps);
                }
                pack(count * channels);
                buffer.put(bytes, 0, count * channels * encoding.bytes());
            }
            case PCM_8, PCM_32, FLOAT_64 ->
                throw new IllegalStateException("encoding: " + encoding + " (expected: PCM_16, PCM_24 or FLOAT_32)");
        }
    }

    /** Any number of planes, where speed does not count. */
    private void interleave(float[][] planes, int from, int count) {
        FloatBuffer out = buffer.asFloatBuffer();
        for (int i = 0; i < count; i++) {
            for (int c = 0; c < channels; c++) {
                out.put(planes[c][from + i]);
            }
        }
    }

    private void pack(int samples) {
        if (encoding == SampleEncoding.PCM_16) {
            for (int i = 0; i < samples; i++) {
                packed.set(SHORT, 2L * i, (short) steps[i]);
            }
        } else {
            for (int i = 0; i < samples; i++) {
                packed.set(INT, 3L * i, steps[i]);
            }
        }
    }

    private void flush() throws IOException {
        buffer.flip();
        while (buffer.hasRemaining()) {
            channel.write(buffer);
        }
        buffer.clear();
    }

    private void rewriteHeader() throws IOException {
        putHeader();
        buffer.flip();
        while (buffer.hasRemaining()) {
            channel.write(buffer, buffer.position());
        }
        buffer.clear();
    }

    /** The long form has its lengths in a chunk of their own and all ones where the short form has them. */
    private void putHeader() {
        boolean isFloat = !encoding.fixedPoint();
        boolean wide = channels > 2;
        int formatBytes = wide ? WIDE_FORMAT : isFloat ? 18 : 16;
        int factBytes = isFloat ? 12 : 0;
        byte[] broadcast = about == null ? new byte[0] : about.chunk(sampleRateHz, channels, encoding);
        long dataBytes = frames * channels * encoding.bytes();
        longForm |= dataBytes > shortFormBytes;
        // A file that grows keeps room for the long form's lengths.
        boolean roomForLong = longForm || growing;
        long riffBytes = 4
                + (roomForLong ? CHUNK_HEADER + LONG_SIZES : 0)
                + (broadcast.length > 0 ? CHUNK_HEADER + broadcast.length : 0)
                + CHUNK_HEADER
                + formatBytes
                + factBytes
                + CHUNK_HEADER
                + dataBytes
                + (dataBytes & 1);
        putId(longForm ? "RF64" : "RIFF");
        buffer.putInt(longForm ? ALL_ONES : (int) riffBytes);
        putId("WAVE");
        if (roomForLong) {
            putId(longForm ? "ds64" : "JUNK");
            buffer.putInt(LONG_SIZES);
            buffer.putLong(riffBytes).putLong(dataBytes).putLong(frames).putInt(0);
        }
        if (broadcast.length > 0) {
            putId("bext");
            buffer.putInt(broadcast.length);
            buffer.put(broadcast);
        }
        putId("fmt ");
        buffer.putInt(formatBytes);
        buffer.putShort((short) (wide ? WIDE_TAG : isFloat ? FLOAT_TAG : PCM_TAG));
        buffer.putShort((short) channels);
        buffer.putInt(sampleRateHz);
        buffer.putInt(sampleRateHz * channels * encoding.bytes());
        buffer.putShort((short) (channels * encoding.bytes()));
        buffer.putShort((short) (encoding.bytes() * 8));
        if (wide) {
            // No channel belongs to a speaker: what each holds is said beside the file.
            buffer.putShort((short) 22).putShort((short) (encoding.bytes() * 8)).putInt(0);
            buffer.putShort((short) (isFloat ? FLOAT_TAG : PCM_TAG)).put(WIDE_SUFFIX);
        } else if (isFloat) {
            buffer.putShort((short) 0);
        }
        if (isFloat) {
            putId("fact");
            buffer.putInt(4);
            buffer.putInt(longForm ? ALL_ONES : (int) frames);
        }
        putId("data");
        buffer.putInt(longForm ? ALL_ONES : (int) dataBytes);
    }

    private void putId(String id) {
        buffer.put(id.getBytes(StandardCharsets.US_ASCII));
    }
}
