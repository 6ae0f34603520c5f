package waterwheel.core.metering;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static waterwheel.core.testing.Signals.joined;
import static waterwheel.core.testing.Signals.noise;
import static waterwheel.core.testing.Signals.silence;
import static waterwheel.core.testing.Signals.sine;

import com.sun.management.ThreadMXBean;
import java.lang.management.ManagementFactory;
import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.DoubleRange;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class AverageTest {
    private static Figures figures(float[]... planes) {
        return Figures.of(LoudnessTest.measured(48_000, planes));
    }

    @Test
    void AES17_a_full_scale_sine_reads_0_dBFS_RMS_and_has_no_crest() {
        Figures sine = figures(sine(1_000, 0, 48_000, 2));
        assertThat(sine.rmsDbfs()).isCloseTo(0, within(0.001));
        assertThat(sine.averageDbfs()).isCloseTo(0, within(0.001));
        assertThat(sine.crestDb()).isCloseTo(0, within(0.001));
    }

    @Test
    void rests_do_not_lower_the_average_but_they_do_lower_the_RMS() {
        float[] played = sine(500, -18, 48_000, 10);
        Figures figures = figures(joined(played, silence(48_000, 30)));
        // 97 blocks are full and three that straddle the end hold 300, 200 and 100 of their 400 ms.
        double blocks = 10 * Math.log10((97 + 0.75 + 0.5 + 0.25) / 100);
        assertThat(figures.averageDbfs()).isCloseTo(-18 + blocks, within(0.005));
        assertThat(figures.rmsDbfs()).isCloseTo(-18 - 10 * Math.log10(4), within(0.01));
    }

    @Test
    void stereo_averages_are_the_louder_sides() {
        assertThat(figures(sine(500, -30, 48_000, 2), sine(500, -12, 48_000, 2)).averageDbfs())
                .isCloseTo(-12, within(0.01));
    }

    @Test
    void the_noise_floor_is_that_of_the_quiet_tenth_and_digital_silence_is_none() {
        // Uniform noise of ±a has the mean square a²/3.
        float[] hiss = noise(0.001, 48_000 * 4, 1);
        Figures figures = figures(joined(sine(1_000, -6, 48_000, 10), hiss, silence(48_000, 20)));
        double expected = 10 * Math.log10(0.001 * 0.001 / 3) + 3.0103;
        assertThat(figures.noiseFloorDbfs()).isCloseTo(expected, within(0.2));
    }

    @Test
    void correlation_tells_alike_from_opposed_from_unrelated() {
        float[] sound = noise(0.5, 48_000, 2);
        float[] opposed = sound.clone();
        for (int i = 0; i < opposed.length; i++) {
            opposed[i] = -opposed[i];
        }
        assertThat(figures(sound, sound).correlation()).isCloseTo(1, within(1e-9));
        assertThat(figures(sound, opposed).correlation()).isCloseTo(-1, within(1e-9));
        // The correlation of n unrelated values has the deviation 1/sqrt(n).
        assertThat(figures(sound, noise(0.5, 48_000, 3)).correlation()).isCloseTo(0, within(0.02));
        assertThat(figures(sound).correlation()).isNaN();
    }

    @Test
    void the_peak_has_its_place() {
        float[] sound = noise(0.1, 48_000, 4);
        sound[12_345] = -0.5f;
        Figures figures = figures(sound);
        assertThat(figures.samplePeakDbfs()).isCloseTo(20 * Math.log10(0.5), within(1e-6));
        assertThat(figures.peakAtSeconds()).isEqualTo(12_345 / 48_000.0);
        assertThat(figures.headroomDb()).isCloseTo(6.02, within(0.01));
    }

    @Property(tries = 30)
    void figures_under_a_gain_are_those_of_the_signal_with_that_gain(
            @ForAll @DoubleRange(min = -20, max = 20) double db) {
        float[] sound = joined(noise(0.2, 48_000 * 4, 5), silence(48_000, 1), sine(300, -20, 48_000, 3));
        double gain = Math.pow(10, db / 20);
        float[] louder = new float[sound.length];
        for (int i = 0; i < sound.length; i++) {
            louder[i] = (float) (gain * sound[i]);
        }
        Figures derived = Figures.of(LoudnessTest.measured(48_000, sound).through(new double[][] {{gain}}));
        Figures measured = figures(louder);
        // Rounding of samples to float: 1e-7 of their value.
        assertThat(derived.samplePeakDbfs()).isCloseTo(measured.samplePeakDbfs(), within(1e-5));
        assertThat(derived.truePeakDbtp()).isCloseTo(measured.truePeakDbtp(), within(1e-5));
        assertThat(derived.averageDbfs()).isCloseTo(measured.averageDbfs(), within(1e-5));
        assertThat(derived.integratedLufs()).isCloseTo(measured.integratedLufs(), within(1e-5));
    }

    @Test
    void a_song_measured_in_parts_is_the_song_measured_whole() {
        float[] sound = joined(noise(0.2, 48_000 * 3, 6), sine(200, -9, 48_000, 3));
        LevelSeries whole = LoudnessTest.measured(48_000, sound);
        int cut = 2 * 48_000;
        SeriesMeter first = new SeriesMeter(48_000, 1, cut, Detail.LOUDNESS);
        first.process(new float[][] {sound}, 0, cut);
        SeriesMeter second = SeriesMeter.ofPart(48_000, 1, sound.length - cut, Detail.LOUDNESS, 48_000);
        second.process(new float[][] {sound}, cut - 48_000, sound.length - cut + 48_000);
        Figures joined = Figures.of(LevelSeries.joined(List.of(first.finish(), second.finish())));
        Figures expected = Figures.of(whole);
        assertThat(joined.samplePeakDbfs()).isEqualTo(expected.samplePeakDbfs());
        assertThat(joined.peakAtSeconds()).isEqualTo(expected.peakAtSeconds());
        assertThat(joined.averageDbfs()).isCloseTo(expected.averageDbfs(), within(1e-9));
        assertThat(joined.integratedLufs()).isCloseTo(expected.integratedLufs(), within(1e-9));
    }

    @Test
    void a_meter_allocates_nothing_while_it_runs() {
        SeriesMeter meter = new SeriesMeter(48_000, 2, 48_000 * 60, Detail.EVERYTHING);
        float[][] block = {noise(0.5, 1_000, 7), noise(0.5, 1_000, 8)};
        for (int i = 0; i < 1_000; i++) {
            meter.process(block, 0, 1_000);
        }
        var threads = (ThreadMXBean) ManagementFactory.getThreadMXBean();
        long before = threads.getCurrentThreadAllocatedBytes();
        for (int i = 0; i < 1_000; i++) {
            meter.process(block, 0, 1_000);
        }
        assertThat(threads.getCurrentThreadAllocatedBytes() - before).isLessThan(1_000);
    }
}
