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
import waterwheel.core.testing.Signals;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

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

    @Test
    void two_sides_that_are_the_same_or_opposite_are_told_apart_from_two_that_are_neither() throws Exception {
        float[] noise = Signals.noise(0.5, 40_000, 1);
        float[] opposite = new float[noise.length];
        for (int i = 0; i < noise.length; i++) {
            opposite[i] = -noise[i];
        }
        FileFacts same = facts(SampleEncoding.FLOAT_32, noise, noise.clone());
        FileFacts upsideDown = facts(SampleEncoding.FLOAT_32, noise, opposite);
        FileFacts unlike = facts(SampleEncoding.FLOAT_32, noise, Signals.noise(0.5, 40_000, 2));
        assertThat(same.sidesIdentical()).isTrue();
        assertThat(same.sidesInverted()).isFalse();
        assertThat(upsideDown.sidesInverted()).isTrue();
        assertThat(unlike.sidesIdentical() || unlike.sidesInverted()).isFalse();
        assertThat(unlike.silentSide()).isEqualTo(-1);
    }

    @Test
    void a_side_that_holds_nothing_is_found_and_a_silent_file_has_none() throws Exception {
        float[] noise = Signals.noise(0.5, 40_000, 1);
        float[] nothing = new float[40_000];
        assertThat(facts(SampleEncoding.PCM_24, noise, nothing).silentSide()).isLessThanOrEqualTo(1);
        assertThat(facts(SampleEncoding.FLOAT_32, noise, nothing).silentSide()).isEqualTo(1);
        assertThat(facts(SampleEncoding.FLOAT_32, nothing, noise).silentSide()).isZero();
        FileFacts silent = facts(SampleEncoding.FLOAT_32, nothing, nothing);
        assertThat(silent.silent()).isTrue();
        assertThat(silent.silentSide()).isEqualTo(-1);
        assertThat(silent.sidesIdentical()).as("silence is no pair of sides").isFalse();
    }

    @Test
    void silence_before_the_first_sample_is_counted_to_the_frame() throws Exception {
        float[] late = Signals.joined(new float[20_001], Signals.noise(0.5, 100, 3));
        assertThat(facts(SampleEncoding.FLOAT_32, late).leadingSilenceFrames()).isEqualTo(20_001);
    }

    @Test
    void the_same_audio_has_one_digest_in_whatever_file_and_other_audio_another() throws Exception {
        float[] noise = Signals.noise(0.5, 40_000, 1);
        float[] changed = noise.clone();
        changed[39_999] += 0.01f;
        assertThat(facts(SampleEncoding.FLOAT_32, noise).digest())
                .isEqualTo(facts(SampleEncoding.FLOAT_32, noise.clone()).digest())
                .isNotEqualTo(facts(SampleEncoding.FLOAT_32, changed).digest());
    }

    @Test
    void the_overview_holds_the_extremes_and_the_RMS_of_every_stretch() throws Exception {
        float[] square = new float[8_192 * 3];
        for (int i = 0; i < square.length; i++) {
            square[i] = i < square.length / 2 ? (i % 2 == 0 ? 0.5f : -0.25f) : 0;
        }
        Overview overview = facts(SampleEncoding.FLOAT_32, square).overview();
        assertThat(overview.stretches()).isEqualTo(4_096);
        assertThat(overview.highest(0, 2_048)).isEqualTo(0.5f);
        assertThat(overview.lowest(0, 2_048)).isEqualTo(-0.25f);
        // sqrt((0.25 + 0.0625) / 2)
        assertThat(overview.rms(0, 2_048)).isCloseTo(0.39528f, within(0.0001f));
        assertThat(overview.highest(2_048, 4_096)).isZero();
        assertThat(facts(SampleEncoding.FLOAT_32, Signals.noise(0.5, 7, 1))
                        .overview()
                        .stretches())
                .as("no more stretches than frames")
                .isEqualTo(7);
    }
}
