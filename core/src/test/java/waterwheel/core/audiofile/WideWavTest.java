package waterwheel.core.audiofile;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import waterwheel.core.testing.Signals;

/** More than two channels, as WAVE_FORMAT_EXTENSIBLE without speakers (tag 0xFFFE, mask 0). */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class WideWavTest {
    private static final int FRAMES = 30_011;

    @TempDir
    @SuppressWarnings("NullAway.Init")
    Path folder;

    @ParameterizedTest
    @CsvSource({"3, FLOAT_32", "4, PCM_24", "6, PCM_16", "8, FLOAT_32", "8, PCM_24", "7, PCM_16"})
    void every_channel_comes_back_in_its_place(int channels, SampleEncoding encoding) throws Exception {
        float[][] planes = new float[channels][];
        for (int c = 0; c < channels; c++) {
            planes[c] = Signals.noise(0.9, FRAMES, c + 1);
        }
        Path file = Signals.wav(folder.resolve("wide.wav"), 48_000, encoding, planes);
        float[][] read = new float[channels][FRAMES];
        try (AudioFile audio = AudioFiles.open(file)) {
            assertThat(audio.format().channels()).isEqualTo(channels);
            assertThat(audio.format().frames()).isEqualTo(FRAMES);
            assertThat(audio.format().encoding()).isEqualTo(encoding);
            audio.reader(FRAMES).read(0, read, 0, FRAMES);
        }
        // Rounding by half a step, dither by one.
        double most = encoding.fixedPoint() ? 1.51 / encoding.fullScaleSteps() : 0;
        for (int c = 0; c < channels; c++) {
            for (int i = 0; i < FRAMES; i++) {
                assertThat(Math.abs((double) read[c][i] - planes[c][i])).isLessThanOrEqualTo(most);
            }
        }
        ByteBuffer header = ByteBuffer.wrap(Files.readAllBytes(file)).order(ByteOrder.LITTLE_ENDIAN);
        assertThat(header.getShort(20) & 0xFFFF).as("tag").isEqualTo(0xFFFE);
        assertThat(header.getInt(40)).as("mask").isZero();
    }
}
