package waterwheel.core.filefacts;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.audiofile.AudioFile;
import waterwheel.core.audiofile.AudioFiles;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.testing.Signals;
import waterwheel.core.work.Progress;

/** A waveform at a glance, and its level over time. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class OverviewTest {
    @TempDir
    Path folder;

    private Overview overview(float[] samples) throws Exception {
        Path file = Signals.wav(folder.resolve("file.wav"), 48_000, SampleEncoding.FLOAT_32, samples);
        try (AudioFile audio = AudioFiles.open(file)) {
            return FileFacts.of(audio, Progress.NONE).overview();
        }
    }

    @Test
    void what_dies_away_by_60_dB_does_so_in_its_levels() throws Exception {
        float[] samples = new float[96_000];
        for (int i = 0; i < samples.length; i++) {
            // Alternating, so that any stretch has the envelope's RMS; 60 dB over the whole length.
            samples[i] = (float) ((i % 2 == 0 ? 0.5 : -0.5) * Math.pow(10, -3.0 * i / samples.length));
        }
        double[] levels = overview(samples).levelsDb(100);
        assertThat(levels).hasSize(100);
        assertThat(levels[0]).isZero();
        for (int i = 0; i < levels.length; i++) {
            assertThat(levels[i]).isCloseTo(-0.6 * i, within(0.05));
        }
    }

    @Test
    void more_parts_than_there_are_samples_and_silence_have_levels_too() throws Exception {
        double[] few = overview(new float[] {1, -0.1f, 0}).levelsDb(6);
        assertThat(few[0]).isZero();
        assertThat(few[1]).isZero();
        assertThat(few[2]).isCloseTo(-20, within(1e-4));
        assertThat(few[5]).isEqualTo(Double.NEGATIVE_INFINITY);
        assertThat(overview(new float[100]).levelsDb(4)).containsOnly(Double.NEGATIVE_INFINITY);
    }
}
