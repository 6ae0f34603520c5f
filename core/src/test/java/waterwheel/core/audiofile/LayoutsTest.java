package waterwheel.core.audiofile;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatExceptionOfType;
import static org.assertj.core.api.Assertions.within;

import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.filefacts.FileReport;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/** Files of more than two channels are measured as what they are. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class LayoutsTest {
    private static final int RATE = 48_000;
    private static final int SECONDS = 5;
    private static final int SURROUND = 0x3F;

    @TempDir
    Path folder;

    /** A float file with a full-scale sine of 997 Hz in some channels and silence in the others. */
    private Path file(long mask, int channels, List<Integer> sounding) throws Exception {
        int frames = RATE * SECONDS;
        ByteBuffer out = ByteBuffer.allocate(68 + 4 * channels * frames).order(ByteOrder.LITTLE_ENDIAN);
        out.put("RIFF".getBytes(StandardCharsets.US_ASCII)).putInt(out.capacity() - 8);
        out.put("WAVEfmt ".getBytes(StandardCharsets.US_ASCII)).putInt(40);
        out.putShort((short) 0xFFFE).putShort((short) channels).putInt(RATE).putInt(RATE * channels * 4);
        out.putShort((short) (channels * 4))
                .putShort((short) 32)
                .putShort((short) 22)
                .putShort((short) 32);
        out.putInt((int) mask).putShort((short) 3).put(new byte[14]);
        out.put("data".getBytes(StandardCharsets.US_ASCII)).putInt(4 * channels * frames);
        for (int i = 0; i < frames; i++) {
            float sine = (float) Math.sin(2 * Math.PI * 997 * i / RATE);
            for (int c = 0; c < channels; c++) {
                out.putFloat(sounding.contains(c) ? sine : 0);
            }
        }
        return Files.write(folder.resolve("layout.wav"), out.array());
    }

    private static FileReport measure(Path file) throws Exception {
        try (AudioFile audio = AudioFiles.open(file);
                Team team = Team.alone()) {
            return FileReport.of(audio, -18, team, Progress.NONE);
        }
    }

    /**
     * BS.1770-5: one front channel reads -3.01; 1.41 times its power is 1.49 LU more; the low-frequency channel does not
     * count; two channels of one power are 3.01 LU more.
     */
    @ParameterizedTest
    @CsvSource({
        "0, -3.01",
        "1, -3.01",
        "2, -3.01",
        "4, -1.52",
        "5, -1.52",
    })
    void one_channel_of_5_1_counts_as_the_standard_says(int channel, double lufs) throws Exception {
        FileReport report = measure(file(SURROUND, 6, List.of(channel)));
        assertThat(report.figures().integratedLufs()).isCloseTo(lufs, within(0.02));
        assertThat(report.figures().samplePeakDbfs()).isCloseTo(0, within(0.01));
    }

    @Test
    void the_low_frequency_channel_has_a_peak_and_no_loudness() throws Exception {
        FileReport report = measure(file(SURROUND, 6, List.of(3)));
        assertThat(report.figures().integratedLufs()).isEqualTo(Double.NEGATIVE_INFINITY);
        assertThat(report.figures().samplePeakDbfs()).isCloseTo(0, within(0.01));
        assertThat(report.figures().truePeakDbtp()).isCloseTo(0, within(0.02));
        assertThat(report.figures().rmsDbfs()).isCloseTo(0, within(0.01));
    }

    @Test
    void all_of_5_1_add_up() throws Exception {
        // 3 front channels of power 1 and 2 of 1.41.
        double expected = -3.01 + 10 * Math.log10(3 + 2 * 1.41);
        assertThat(measure(file(SURROUND, 6, List.of(0, 1, 2, 3, 4, 5)))
                        .figures()
                        .integratedLufs())
                .isCloseTo(expected, within(0.02));
    }

    @Test
    void a_back_pair_behind_a_side_pair_counts_as_the_front() throws Exception {
        long seven = 0x63F;
        assertThat(measure(file(seven, 8, List.of(4))).figures().integratedLufs())
                .isCloseTo(-3.01, within(0.02));
        assertThat(measure(file(seven, 8, List.of(6))).figures().integratedLufs())
                .isCloseTo(-1.52, within(0.02));
    }

    @Test
    void the_mask_says_what_the_channels_are_and_the_number_where_it_does_not() throws Exception {
        try (AudioFile audio = AudioFiles.open(file(0x60F, 6, List.of()))) {
            assertThat(audio.format().speakers())
                    .containsExactly(
                            Speaker.FRONT_LEFT,
                            Speaker.FRONT_RIGHT,
                            Speaker.FRONT_CENTRE,
                            Speaker.LOW_FREQUENCY,
                            Speaker.SIDE_LEFT,
                            Speaker.SIDE_RIGHT);
        }
        // A mask of another number of channels, and none.
        for (long mask : new long[] {0x3, 0}) {
            try (AudioFile audio = AudioFiles.open(file(mask, 4, List.of()))) {
                assertThat(audio.format().speakers())
                        .isEqualTo(Speaker.usual(4))
                        .contains(Speaker.BACK_LEFT);
            }
        }
    }

    @Test
    void more_channels_than_any_layout_has_are_refused_in_words() throws Exception {
        Path file = file(0, 9, List.of());
        assertThatExceptionOfType(AudioFileException.class)
                .isThrownBy(() -> measure(file))
                .withMessageContaining("9 channels")
                .withMessageContaining("splits it");
    }
}
