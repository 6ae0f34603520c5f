package waterwheel.core.audiofile;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.Random;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** What a file's memory is let go of is read again as it was, whatever part of it and wherever a reader stands. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class ReleaseTest {
    private static final int FRAMES = 50_000;
    private static final int BLOCK = 1_000;

    @TempDir
    Path folder;

    @ParameterizedTest
    @EnumSource(
            value = SampleEncoding.class,
            names = {"PCM_16", "PCM_24", "FLOAT_32"})
    void nothing_of_it_is_lost(SampleEncoding encoding) throws Exception {
        float[][] written = new float[2][FRAMES];
        Random random = new Random(7);
        for (int i = 0; i < FRAMES; i++) {
            written[0][i] = random.nextInt(-100, 100) / 128f;
            written[1][i] = random.nextInt(-100, 100) / 128f;
        }
        Path path = folder.resolve("a.wav");
        try (WavWriter writer = WavWriter.create(path, 2, 48_000, encoding, FRAMES)) {
            writer.write(written, 0, FRAMES);
            writer.finish();
        }
        try (AudioFile file = AudioFiles.open(path)) {
            AudioFile.Reader reader = file.reader(BLOCK);
            float[][] before = new float[2][FRAMES];
            float[][] after = new float[2][FRAMES];
            for (int at = 0; at < FRAMES; at += BLOCK) {
                reader.read(at, before, at, BLOCK);
                // Also while somebody is in the middle of it.
                int from = random.nextInt(FRAMES);
                file.release(from, random.nextInt(FRAMES - from + 1));
            }
            file.release(0, FRAMES);
            for (int at = 0; at < FRAMES; at += BLOCK) {
                reader.read(at, after, at, BLOCK);
            }
            assertThat(after).isDeepEqualTo(before);
            assertThat(after[0])
                    .as("not silence")
                    .contains(after[0][0], after[0][FRAMES - 1])
                    .isNotEqualTo(new float[FRAMES]);
        }
    }
}
