package waterwheel.core.audiofile;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import waterwheel.core.testing.Signals;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class ResampledFileTest {
    /** Away from the ends, where the file's silence before and after is heard in the filter. */
    private static final double MARGIN_SECONDS = 0.05;

    @TempDir
    Path folder;

    private float[] resampled(double hertz, int from, int to) throws Exception {
        Path file = Signals.wav(
                folder.resolve("sine.wav"), from, SampleEncoding.FLOAT_32, Signals.sine(hertz, 0, from, 0.5, 30));
        try (ResampledFile audio = new ResampledFile(AudioFiles.open(file), to)) {
            int frames = (int) audio.format().frames();
            float[][] planes = new float[1][frames];
            audio.reader(frames).read(0, planes, 0, frames);
            return planes[0];
        }
    }

    /** Amplitude of the part at a frequency, and the largest of what is left without it, in dB. */
    private record Fit(double amplitudeDb, double restDb, double phaseDegrees) {}

    private static Fit fit(float[] samples, double hertz, int rate) {
        int margin = (int) (MARGIN_SECONDS * rate);
        double ss = 0;
        double cc = 0;
        double sc = 0;
        double xs = 0;
        double xc = 0;
        for (int i = margin; i < samples.length - margin; i++) {
            double s = Math.sin(2 * Math.PI * hertz * i / rate);
            double c = Math.cos(2 * Math.PI * hertz * i / rate);
            ss += s * s;
            cc += c * c;
            sc += s * c;
            xs += samples[i] * s;
            xc += samples[i] * c;
        }
        double determinant = ss * cc - sc * sc;
        double a = (xs * cc - xc * sc) / determinant;
        double b = (xc * ss - xs * sc) / determinant;
        double rest = 0;
        for (int i = margin; i < samples.length - margin; i++) {
            double angle = 2 * Math.PI * hertz * i / rate;
            rest = Math.max(rest, Math.abs(samples[i] - a * Math.sin(angle) - b * Math.cos(angle)));
        }
        return new Fit(20 * Math.log10(Math.hypot(a, b)), 20 * Math.log10(rest), Math.toDegrees(Math.atan2(b, a)));
    }

    @ParameterizedTest
    @CsvSource({
        "44100, 48000, 100", "44100, 48000, 997", "44100, 48000, 10000", "44100, 48000, 18000", "44100, 48000, 20000",
        "48000, 44100, 100", "48000, 44100, 997", "48000, 44100, 10000", "48000, 44100, 18000", "48000, 44100, 20000",
        "96000, 48000, 20000", "88200, 44100, 20000", "48000, 96000, 20000", "192000, 48000, 997",
                "32000, 48000, 14000",
        "44056, 48000, 997"
    })
    void the_pass_band_is_flat_to_0_01_dB_and_images_are_120_dB_down(int from, int to, double hertz) throws Exception {
        Fit fit = fit(resampled(hertz, from, to), hertz, to);
        assertThat(fit.amplitudeDb()).as("level").isCloseTo(0, within(0.01));
        assertThat(fit.restDb()).as("images and noise").isLessThan(-120);
        assertThat(fit.phaseDegrees()).as("no delay").isCloseTo(30, within(0.05));
    }

    @ParameterizedTest
    @CsvSource({
        "48000, 44100, 22100",
        "48000, 44100, 23000",
        "96000, 48000, 24100",
        "96000, 48000, 40000",
        "192000, 44100, 60000"
    })
    void what_the_lower_rate_cannot_hold_is_gone_by_120_dB(int from, int to, double hertz) throws Exception {
        float[] samples = resampled(hertz, from, to);
        int margin = (int) (MARGIN_SECONDS * to);
        for (int i = margin; i < samples.length - margin; i++) {
            assertThat(Math.abs(samples[i])).isLessThan(1e-6f);
        }
    }

    @Test
    void it_is_as_long_as_the_original_and_reads_the_same_in_parts() throws Exception {
        Path file = Signals.wav(
                folder.resolve("noise.wav"),
                44_100,
                SampleEncoding.PCM_24,
                Signals.noise(0.5, 44_100, 1),
                Signals.noise(0.5, 44_100, 2));
        try (ResampledFile audio = new ResampledFile(AudioFiles.open(file), 48_000)) {
            assertThat(audio.format().frames()).isEqualTo(48_000);
            float[][] whole = new float[2][48_000];
            audio.reader(48_000).read(0, whole, 0, 48_000);
            float[][] parts = new float[2][48_000];
            AudioFile.Reader reader = audio.reader(777);
            for (int at = 0; at < 48_000; at += 777) {
                reader.read(at, parts, at, Math.min(777, 48_000 - at));
            }
            assertThat(parts).isDeepEqualTo(whole);
        }
    }
}
