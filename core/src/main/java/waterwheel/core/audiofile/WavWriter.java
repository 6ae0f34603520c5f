package waterwheel.core.audiofile;

import java.io.IOException;
import java.lang.foreign.MemorySegment;
import java.lang.foreign.ValueLayout;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import waterwheel.core.errors.AudioFileException;

/**
 * Writes a WAV file aside and gives it its name when it is whole: a writer that is closed before {@link #finish()}
 * leaves nothing behind. Fixed-point formats get TPDF dither of ±1 LSB. It depends on the file's name and on nothing
 * else: the same audio under the same name gives the same bytes, and the noise of files of different names, such as
 * stems that are summed later, is not the same noise. One thread at a time.
 */
public final class WavWriter implements AutoCloseable {
    private static final ValueLayout.OfShort SHORT =
            ValueLayout.JAVA_SHORT_UNALIGNED.withOrder(ByteOrder.LITTLE_ENDIAN);
    private static final ValueLayout.OfInt INT = ValueLayout.JAVA_INT_UNALIGNED.withOrder(ByteOrder.LITTLE_ENDIAN);
    private static final int BUFFER_BYTES = 1 << 17;
    /** What the short form's lengths can say, less the chunks before the samples. */
    private static final long SHORT_FORM_BYTES = 0xFFFF_FFFFL - 128;

    private static final int CHUNK_HEADER = 8;
    private static final int LONG_SIZES = 28;
    private static final int ALL_ONES = -1;

    private final Path target;
    private final Path aside;
    private final FileChannel channel;
    private final ByteBuffer buffer = ByteBuffer.allocateDirect(BUFFER_BYTES).order(ByteOrder.LITTLE_ENDIAN);
    private final int[] steps = new int[BUFFER_BYTES / 2];
    // One more than fits the buffer: packing 24 bits writes 32 and lets the next sample overwrite the last byte.
    private final byte[] bytes = new byte[BUFFER_BYTES + 1];
    private final MemorySegment packed = MemorySegment.ofArray(bytes);
    private final int channels;
    private final int sampleRateHz;
    private final SampleEncoding encoding;
    private final TpdfDither[] dither;
    private final boolean dithered;
    private final boolean longForm;
    private final FloatInterleaver interleaver = new FloatInterleaver();
    private long frames;
    private long limitedSamples;
    private boolean finished;

    private WavWriter(
            Path target,
            Path aside,
            FileChannel channel,
            int channels,
            int rate,
            SampleEncoding encoding,
            boolean dithered,
            boolean longForm) {
        this.dithered = dithered;
        this.longForm = longForm;
        this.target = target;
        this.aside = aside;
        this.channel = channel;
        this.channels = channels;
        this.sampleRateHz = rate;
        this.encoding = encoding;
        this.dither = new TpdfDither[channels];
        for (int i = 0; i < channels; i++) {
            dither[i] = new TpdfDither(2L * target.getFileName().toString().hashCode() + i);
        }
    }

    /**
     * Starts a file.
     *
     * @param channels 1 or 2
     * @param encoding PCM_16, PCM_24 or FLOAT_32
     * @param frames how long the file will be; past 4 GiB it is written in the long form, RF64 (EBU Tech 3306)
     * @throws AudioFileException if the file cannot be written
     */
    public static WavWriter create(Path target, int channels, int sampleRateHz, SampleEncoding encoding, long frames)
            throws AudioFileException {
        return create(target, channels, sampleRateHz, encoding, frames, true, SHORT_FORM_BYTES);
    }

    /**
     * Starts a file for samples that the encoding holds exactly, as after a change of container: not dithered.
     *
     * @throws AudioFileException as {@link #create} does
     */
    public static WavWriter createExact(
            Path target, int channels, int sampleRateHz, SampleEncoding encoding, long frames)
            throws AudioFileException {
        return create(target, channels, sampleRateHz, encoding, frames, false, SHORT_FORM_BYTES);
    }

    /** Starts a file with a given bound for the short form, so that the long one can be tried without 4 GiB. */
    static WavWriter create(
            Path target,
            int channels,
            int sampleRateHz,
            SampleEncoding encoding,
            long frames,
            boolean dithered,
            long shortFormBytes)
            throws AudioFileException {
        boolean longForm = frames * channels * encoding.bytes() > shortFormBytes;
        Path aside = target.resolveSibling("." + target.getFileName() + ".part");
        try {
            FileChannel channel = FileChannel.open(
                    aside, StandardOpenOption.CREATE, StandardOpenOption.TRUNCATE_EXISTING, StandardOpenOption.WRITE);
            WavWriter writer =
                    new WavWriter(target, aside, channel, channels, sampleRateHz, encoding, dithered, longForm);
            writer.putHeader();
            return writer;
        } catch (IOException e) {
            throw writeFailure(target, e);
        }
    }

    /**
     * Appends frames.
     *
     * @param planes full scale ±1.0, {@code planes[channel][from .. from + count)}
     * @throws AudioFileException if the disk refuses
     */
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
            throw writeFailure(target, e);
        }
    }

    /** Samples so far that had to be held at the format's limit; always 0 for float. */
    public long limitedSamples() {
        return limitedSamples;
    }

    /**
     * Completes the file and gives it its name, replacing one of the same name. Not forced to the disk: a render that a
     * power cut takes can be made again, and waiting for the disk after every stem would take longer than rendering.
     *
     * @throws AudioFileException if the disk refuses
     */
    public void finish() throws AudioFileException {
        try {
            if ((frames * channels * encoding.bytes() & 1) == 1) {
                buffer.put((byte) 0);
            }
            flush();
            putHeader();
            buffer.flip();
            while (buffer.hasRemaining()) {
                channel.write(buffer, buffer.position());
            }
            channel.close();
            Files.move(aside, target, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
            finished = true;
        } catch (IOException e) {
            throw writeFailure(target, e);
        }
    }

    /** Removes the file unless it was finished. */
    @Override
    public void close() throws AudioFileException {
        if (finished) {
            return;
        }
        try {
            channel.close();
            Files.deleteIfExists(aside);
        } catch (IOException e) {
            throw writeFailure(target, e);
        }
    }

    private void encode(float[][] planes, int from, int count) {
        switch (encoding) {
            case FLOAT_32 -> {
                if (channels == 1) {
                    buffer.asFloatBuffer().put(planes[0], from, count);
                } else {
                    interleaver.interleave(planes[0], planes[1], from, count, buffer);
                }
                buffer.position(buffer.position() + count * channels * Float.BYTES);
            }
            case PCM_16, PCM_24 -> {
                for (int c = 0; c < channels; c++) {
                    round(planes[c], from, count, c);
                }
                pack(count * channels);
                buffer.put(bytes, 0, count * channels * encoding.bytes());
            }
            case PCM_8, PCM_32, FLOAT_64 ->
                throw new IllegalStateException("encoding: " + encoding + " (expected: PCM_16, PCM_24 or FLOAT_32)");
        }
    }

    /** Dithers and rounds one channel into its places among the steps of all. */
    private void round(float[] samples, int from, int count, int channelIndex) {
        final int[] out = steps;
        final int stride = channels;
        final double fullScale = encoding.fullScaleSteps();
        final TpdfDither noise = dither[channelIndex];
        int at = channelIndex;
        long held = 0;
        for (int i = from; i < from + count; i++) {
            double value = samples[i] * fullScale + (dithered ? noise.next() : 0) + 0.5;
            if (value >= fullScale) {
                value = fullScale - 1;
                held++;
            } else if (value < -fullScale) {
                value = -fullScale;
                held++;
            }
            out[at] = (int) Math.floor(value);
            at += stride;
        }
        limitedSamples += held;
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

    /** The long form has its lengths in a chunk of their own and all ones where the short form has them. */
    private void putHeader() {
        boolean isFloat = !encoding.fixedPoint();
        int formatBytes = isFloat ? 18 : 16;
        int factBytes = isFloat ? 12 : 0;
        long dataBytes = frames * channels * encoding.bytes();
        long riffBytes = 4
                + (longForm ? CHUNK_HEADER + LONG_SIZES : 0)
                + CHUNK_HEADER
                + formatBytes
                + factBytes
                + CHUNK_HEADER
                + dataBytes
                + (dataBytes & 1);
        putId(longForm ? "RF64" : "RIFF");
        buffer.putInt(longForm ? ALL_ONES : (int) riffBytes);
        putId("WAVE");
        if (longForm) {
            putId("ds64");
            buffer.putInt(LONG_SIZES);
            buffer.putLong(riffBytes).putLong(dataBytes).putLong(frames).putInt(0);
        }
        putId("fmt ");
        buffer.putInt(formatBytes);
        buffer.putShort((short) (isFloat ? 3 : 1));
        buffer.putShort((short) channels);
        buffer.putInt(sampleRateHz);
        buffer.putInt(sampleRateHz * channels * encoding.bytes());
        buffer.putShort((short) (channels * encoding.bytes()));
        buffer.putShort((short) (encoding.bytes() * 8));
        if (isFloat) {
            buffer.putShort((short) 0);
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

    private static AudioFileException writeFailure(Path target, IOException e) {
        return new AudioFileException(
                target,
                "cannot be written: " + e.getMessage() + ".",
                "Check the folder's rights and the space on the disk.",
                e);
    }
}
