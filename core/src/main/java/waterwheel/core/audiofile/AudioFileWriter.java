package waterwheel.core.audiofile;

import java.nio.file.Path;
import waterwheel.core.errors.AudioFileException;

/**
 * Writes a file aside and gives it its name when it is whole: a writer that is closed before {@link #finish()} leaves
 * nothing behind. One thread at a time.
 */
public sealed interface AudioFileWriter extends AutoCloseable permits WavWriter, FlacWriter {
    /**
     * Starts a file.
     *
     * @param channels 1 to 8
     * @param frames how long the file will be
     * @param tags what it says of itself
     * @throws AudioFileException if the file cannot be written
     */
    static AudioFileWriter create(
            Path target, int channels, int sampleRateHz, RenderFormat format, long frames, FileTags tags)
            throws AudioFileException {
        return switch (format) {
            case WAV_16, WAV_24, WAV_32F ->
                WavWriter.create(target, channels, sampleRateHz, format.encoding(), frames, tags.broadcast());
            case FLAC_16, FLAC_24 -> FlacWriter.create(target, channels, sampleRateHz, format.encoding(), tags);
        };
    }

    /**
     * Appends frames.
     *
     * @param planes full scale ±1.0, {@code planes[channel][from .. from + count)}
     * @throws AudioFileException if the disk refuses
     */
    void write(float[][] planes, int from, int count) throws AudioFileException;

    /** Samples so far that had to be held at the format's limit; always 0 for float. */
    long limitedSamples();

    /**
     * Completes the file and gives it its name, replacing one of the same name. Not forced to the disk: a render that a
     * power cut takes can be made again, and waiting for the disk after every stem would take longer than rendering.
     *
     * @throws AudioFileException if the disk refuses
     */
    void finish() throws AudioFileException;

    /** Removes the file unless it was finished. */
    @Override
    void close() throws AudioFileException;
}
