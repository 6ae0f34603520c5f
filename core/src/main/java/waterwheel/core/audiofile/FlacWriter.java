package waterwheel.core.audiofile;

import java.io.IOException;
import java.nio.file.Path;
import net.sourceforge.javaflacencoder.EncodingConfiguration;
import net.sourceforge.javaflacencoder.FLACEncoder;
import net.sourceforge.javaflacencoder.StreamConfiguration;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.work.AsideFile;

/** Writes a FLAC file (RFC 9639) with TPDF dither and Waterwheel's mark. */
public final class FlacWriter implements AudioFileWriter {
    /** Frames in one block of the stream, the usual size at these rates. */
    private static final int BLOCK = 4_096;

    private final AsideFile file;
    private final FlacTag out;
    private final FLACEncoder encoder = new FLACEncoder();
    private final StepRounding rounding;
    private final int channels;
    private final int[] steps;
    private boolean finished;

    private FlacWriter(AsideFile file, int channels, int rate, SampleEncoding encoding, FileTags tags)
            throws IOException {
        this.file = file;
        this.channels = channels;
        rounding = new StepRounding(file.target(), channels, encoding, true);
        steps = new int[BLOCK * channels];
        encoder.setStreamConfiguration(new StreamConfiguration(channels, BLOCK, BLOCK, rate, encoding.bytes() * 8));
        encoder.setEncodingConfiguration(new EncodingConfiguration());
        // With none it does not run; several would only compete with the renders beside this one.
        encoder.setThreadCount(1);
        out = new FlacTag(file.path(), tags);
        encoder.setOutputStream(out);
        encoder.openFLACStream();
    }

    /**
     * Starts a file.
     *
     * @param channels 1 to 8
     * @param encoding PCM_16 or PCM_24
     * @param tags what it says of itself
     * @throws AudioFileException if the file cannot be written
     */
    public static FlacWriter create(Path target, int channels, int sampleRateHz, SampleEncoding encoding, FileTags tags)
            throws AudioFileException {
        AsideFile file = new AsideFile(target);
        try {
            return new FlacWriter(file, channels, sampleRateHz, encoding, tags);
        } catch (IOException e) {
            throw AudioFileException.cannotWrite(file.target(), e);
        }
    }

    @Override
    public void write(float[][] planes, int from, int count) throws AudioFileException {
        try {
            for (int done = 0; done < count; ) {
                int part = Math.min(count - done, BLOCK);
                for (int c = 0; c < channels; c++) {
                    rounding.round(planes[c], from + done, part, c, steps);
                }
                encoder.addSamples(steps, part);
                int full = encoder.fullBlockSamplesAvailableToEncode();
                if (full > 0) {
                    encoder.encodeSamples(full, false);
                }
                done += part;
            }
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
            encoder.encodeSamples(encoder.samplesAvailableToEncode(), true);
            out.close();
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
            out.close();
            file.remove();
        } catch (IOException e) {
            throw AudioFileException.cannotWrite(file.target(), e);
        }
    }
}
