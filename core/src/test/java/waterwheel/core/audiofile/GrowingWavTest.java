package waterwheel.core.audiofile;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatExceptionOfType;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.testing.Signals;

/** A file that can be read while it grows, whatever happens to its writer. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class GrowingWavTest {
    private static final int RATE = 48_000;
    private static final int PART = 1_000;

    @TempDir
    Path folder;

    /** The samples of a file from its first frame on; as many as its header tells. */
    private static float[][] read(Path file) throws Exception {
        try (AudioFile audio = AudioFiles.open(file)) {
            int frames = (int) audio.format().frames();
            float[][] planes = new float[audio.format().channels()][frames];
            if (frames > 0) {
                audio.reader(frames).read(0, planes, 0, frames);
            }
            return planes;
        }
    }

    private static String id(Path file, int at) throws Exception {
        byte[] bytes = Files.readAllBytes(file);
        return new String(bytes, at, 4, StandardCharsets.US_ASCII);
    }

    /** In the short form and, with a bound as if 4 GiB were 20,000 bytes, past it into the long one. */
    @ParameterizedTest
    @CsvSource({"1, 4000000000, RIFF", "2, 4000000000, RIFF", "1, 20000, RF64", "2, 20000, RF64"})
    void all_that_was_secured_is_there_at_every_moment(int channels, long bound, String form) throws Exception {
        Path file = folder.resolve("take.wav");
        float[][] planes = new float[channels][10 * PART];
        for (int c = 0; c < channels; c++) {
            planes[c] = Signals.noise(0.9, 10 * PART, c);
        }
        try (WavWriter writer = WavWriter.createGrowing(file, channels, RATE, bound)) {
            assertThat(read(file)[0]).isEmpty();
            for (int part = 0; part < 10; part++) {
                writer.write(planes, part * PART, PART);
                writer.secure();
                float[][] back = read(file);
                assertThat(back[0]).hasSize((part + 1) * PART);
                for (int c = 0; c < channels; c++) {
                    for (int i = 0; i < back[c].length; i++) {
                        assertThat(back[c][i]).isEqualTo(planes[c][i]);
                    }
                }
            }
            assertThat(id(file, 0)).isEqualTo(form);
            assertThat(id(file, 12)).isEqualTo(form.equals("RIFF") ? "JUNK" : "ds64");
        }
        // Closed without an end it keeps all of it.
        assertThat(read(file)[0]).hasSize(10 * PART);
    }

    @Test
    void a_file_of_that_name_is_never_replaced() throws Exception {
        Path file = Files.writeString(folder.resolve("take.wav"), "mine");
        assertThatExceptionOfType(AudioFileException.class)
                .isThrownBy(() -> WavWriter.createGrowing(file, 1, RATE))
                .withMessageContaining("take.wav");
        assertThat(file).hasContent("mine");
    }

    @Test
    void finished_it_is_as_long_as_what_was_written() throws Exception {
        Path file = folder.resolve("take.wav");
        float[][] planes = {Signals.noise(0.9, 777, 1)};
        try (WavWriter writer = WavWriter.createGrowing(file, 1, RATE)) {
            writer.write(planes, 0, 777);
            writer.finish();
        }
        assertThat(read(file)[0]).isEqualTo(planes[0]);
        assertThat(Files.size(file)).isEqualTo(12 + 36 + 8 + 18 + 12 + 8 + 4 * 777L);
    }
}
