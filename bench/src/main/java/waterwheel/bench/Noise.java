package waterwheel.bench;

import java.nio.file.Path;
import java.util.SplittableRandom;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.audiofile.WavWriter;
import waterwheel.core.errors.AudioFileException;

/** Stereo files of noise that swells and rests, as a song's tracks do. */
final class Noise {
    private Noise() {}

    static void write(Path file, int seconds, int sampleRateHz, long seed) throws AudioFileException {
        write(file, seconds, sampleRateHz, seed, SampleEncoding.FLOAT_32);
    }

    static void write(Path file, int seconds, int sampleRateHz, long seed, SampleEncoding encoding)
            throws AudioFileException {
        SplittableRandom random = new SplittableRandom(seed);
        float[][] block = new float[2][sampleRateHz / 10];
        long frames = (long) seconds * sampleRateHz;
        try (WavWriter writer = WavWriter.create(file, 2, sampleRateHz, encoding, frames)) {
            for (int tenth = 0; tenth < seconds * 10; tenth++) {
                float level = (float) (0.05 + 0.2 * Math.abs(Math.sin(tenth * 0.05 + seed)));
                for (int i = 0; i < block[0].length; i++) {
                    block[0][i] = level * (random.nextFloat() * 2 - 1);
                    block[1][i] = level * (random.nextFloat() * 2 - 1);
                }
                writer.write(block, 0, block[0].length);
            }
            writer.finish();
        }
    }
}
