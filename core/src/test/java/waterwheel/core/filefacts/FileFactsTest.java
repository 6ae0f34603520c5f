package waterwheel.core.filefacts;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import java.util.Arrays;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.audiofile.AudioFile;
import waterwheel.core.audiofile.AudioFiles;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.engine.Team;
import waterwheel.core.testing.Signals;
import waterwheel.core.work.Progress;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class FileFactsTest {
    @TempDir
    Path folder;

    private FileFacts facts(SampleEncoding encoding, float[]... planes) throws Exception {
        try (AudioFile file = AudioFiles.open(Signals.wav(folder.resolve("x.wav"), 48_000, encoding, planes))) {
            return FileFacts.of(file, Progress.NONE);
        }
    }

    @Test
    void a_sine_recorded_3_dB_too_hot_is_flattened_twice_a_period() throws Exception {
        FileFacts facts = facts(SampleEncoding.PCM_24, Signals.sine(100, 3, 48_000, 1));
        assertThat(facts.flattenedRuns()).isEqualTo(200);
        // Over full scale while |sin| > 10^(-3/20): half of each half period's samples, to the sample at each end.
        double part = 1 - 2 / Math.PI * Math.asin(Math.pow(10, -3 / 20.0));
        assertThat((double) facts.flattenedSamples()).isCloseTo(48_000 * part, within(400.0));
        assertThat(facts.runs().getFirst().firstFrame()).isBetween(58L, 64L);
    }

    @Test
    void the_same_sine_in_a_float_file_is_over_and_not_flattened() throws Exception {
        FileFacts facts = facts(SampleEncoding.FLOAT_32, Signals.sine(100, 3, 48_000, 1));
        assertThat(facts.flattenedRuns()).isZero();
        double part = 1 - 2 / Math.PI * Math.asin(Math.pow(10, -3 / 20.0));
        assertThat((double) facts.oversSamples()).isCloseTo(48_000 * part, within(400.0));
    }

    @Test
    void equal_samples_below_the_extreme_or_far_from_full_scale_are_no_loss() throws Exception {
        float[] flatAtMinus6 = Signals.noise(0.3, 1_000, 1);
        Arrays.fill(flatAtMinus6, 100, 200, 0.5f);
        assertThat(facts(SampleEncoding.FLOAT_32, flatAtMinus6).flattenedRuns()).isZero();
        float[] peakAbovePlateau = new float[1_000];
        Arrays.fill(peakAbovePlateau, 100, 110, 0.98f);
        peakAbovePlateau[500] = 0.99f;
        assertThat(facts(SampleEncoding.PCM_24, peakAbovePlateau).flattenedRuns())
                .isZero();
    }

    @Test
    void two_equal_samples_at_the_limit_are_not_yet_a_run() throws Exception {
        float[] pair = new float[100];
        pair[50] = 2;
        pair[51] = 2;
        assertThat(facts(SampleEncoding.PCM_16, pair).flattenedRuns()).isZero();
        pair[52] = 2;
        assertThat(facts(SampleEncoding.PCM_16, pair).flattenedSamples()).isEqualTo(3);
    }

    @Test
    void identical_sides_and_an_offset_are_seen() throws Exception {
        float[] side = Signals.noise(0.1, 48_000, 2);
        for (int i = 0; i < side.length; i++) {
            side[i] += 0.25f;
        }
        FileFacts facts = facts(SampleEncoding.FLOAT_32, side, side.clone());
        assertThat(facts.sidesIdentical()).isTrue();
        // The mean of n uniform values of ±0.1 deviates by 0.058/sqrt(n).
        assertThat(facts.dcOffset()).isCloseTo(0.25, within(0.001));
    }

    @Test
    void a_report_holds_the_VU_reading_of_the_louder_side() throws Exception {
        Path file = Signals.wav(
                folder.resolve("vu.wav"),
                48_000,
                SampleEncoding.PCM_24,
                Signals.sine(1_000, -24, 48_000, 3),
                Signals.sine(1_000, -18, 48_000, 3));
        try (AudioFile audio = AudioFiles.open(file);
                Team team = new Team(2)) {
            FileReport report = FileReport.of(audio, -18, team, Progress.NONE);
            // Highest while it swings over by 1 to 1.5 %: 0.09 to 0.13 dB.
            assertThat(report.vuMaxDb()).isBetween(0.08, 0.14);
            assertThat(report.vuSeries().count()).isEqualTo(300);
            assertThat(report.vuSeries().readingVu(299)).isCloseTo(0, within(0.05));
        }
    }
}
