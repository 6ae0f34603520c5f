package waterwheel.core.audiofile;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import waterwheel.core.testing.Signals;

/** Everything that a render is written as. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class RenderFormatTest {
    private static final int RATE = 48_000;
    private static final int FRAMES = 10_007;
    private static final FileTags ABOUT = new FileTags("Reel", "Fiddle", "", "", 5_000_000_000L);

    @TempDir
    Path folder;

    private final float[][] planes = {Signals.sine(440, -6, RATE, FRAMES / (double) RATE), Signals.noise(0.9, FRAMES, 3)
    };

    private Path written(RenderFormat format, int channels, int block) throws Exception {
        Path file = folder.resolve("file" + format.ending());
        float[][] used = Arrays.copyOf(planes, channels);
        try (AudioFileWriter writer = AudioFileWriter.create(file, channels, RATE, format, FRAMES, ABOUT)) {
            for (int at = 0; at < FRAMES; at += block) {
                writer.write(used, at, Math.min(block, FRAMES - at));
            }
            writer.finish();
        }
        return file;
    }

    @ParameterizedTest
    @EnumSource(RenderFormat.class)
    void what_was_written_is_read_back(RenderFormat format) throws Exception {
        // Rounding by half a step and dither by one.
        double step = format.encoding().fixedPoint() ? 1.5 / format.encoding().fullScaleSteps() : 0;
        for (int channels = 1; channels <= 2; channels++) {
            try (AudioFile file = AudioFiles.open(written(format, channels, 1_000))) {
                assertThat(file.format().frames()).isEqualTo(FRAMES);
                assertThat(file.format().channels()).isEqualTo(channels);
                assertThat(file.format().encoding()).isEqualTo(format.encoding());
                float[][] read = new float[channels][FRAMES];
                file.reader(FRAMES).read(0, read, 0, FRAMES);
                for (int c = 0; c < channels; c++) {
                    for (int i = 0; i < FRAMES; i++) {
                        assertThat((double) read[c][i]).isCloseTo(planes[c][i], within(step + 1e-9));
                    }
                }
            }
        }
    }

    @ParameterizedTest
    @EnumSource(RenderFormat.class)
    void the_same_audio_gives_the_same_bytes_however_it_is_cut_into_blocks(RenderFormat format) throws Exception {
        byte[] whole = Files.readAllBytes(written(format, 2, FRAMES));
        assertThat(Files.readAllBytes(written(format, 2, 333))).isEqualTo(whole);
    }

    @ParameterizedTest
    @CsvSource({"WAV_16, FLAC_16", "WAV_24, FLAC_24"})
    void a_file_holds_the_same_samples_whatever_its_container(RenderFormat wav, RenderFormat flac) throws Exception {
        // Under the same name, because the dither depends on it.
        Path one = written(wav, 2, 4_096);
        Path renamed = folder.resolve("x");
        Files.move(one, renamed);
        Path other = folder.resolve("file.wav");
        try (FlacWriter writer = FlacWriter.create(other, 2, RATE, flac.encoding(), ABOUT)) {
            writer.write(planes, 0, FRAMES);
            writer.finish();
        }
        try (AudioFile a = AudioFiles.open(renamed);
                AudioFile b = AudioFiles.open(other)) {
            float[][] left = new float[2][FRAMES];
            float[][] right = new float[2][FRAMES];
            a.reader(FRAMES).read(0, left, 0, FRAMES);
            b.reader(FRAMES).read(0, right, 0, FRAMES);
            assertThat(right).isDeepEqualTo(left);
        }
    }

    @Test
    void a_flac_file_says_what_it_is() throws Exception {
        FileTags tags = new FileTags("Réel", "Fiddle", "as mixed", "autumn", 0);
        Path file = folder.resolve("tagged.flac");
        try (FlacWriter writer = FlacWriter.create(file, 2, RATE, SampleEncoding.PCM_24, tags)) {
            writer.write(planes, 0, FRAMES);
            writer.finish();
        }
        assertThat(FlacFile.comments(file))
                .containsExactly(
                        "ENCODED-BY=Waterwheel", "ALBUM=Réel", "TITLE=Fiddle", "DESCRIPTION=as mixed", "DATE=autumn");
        assertThat(RenderMark.isOn(file)).isTrue();
        try (AudioFile read = AudioFiles.open(file)) {
            assertThat(read.format().frames()).isEqualTo(FRAMES);
        }
    }

    @Test
    void a_flac_file_that_is_not_finished_leaves_nothing_behind() throws Exception {
        try (FlacWriter writer =
                FlacWriter.create(folder.resolve("half.flac"), 2, RATE, SampleEncoding.PCM_24, ABOUT)) {
            writer.write(planes, 0, FRAMES);
        }
        assertThat(folder).isEmptyDirectory();
    }

    @Test
    void samples_over_the_limit_are_held_and_counted_in_flac_too() throws Exception {
        try (FlacWriter writer = FlacWriter.create(folder.resolve("hot.flac"), 1, RATE, SampleEncoding.PCM_16, ABOUT)) {
            writer.write(new float[][] {{0, 1.5f, -1.5f, 0.5f}}, 0, 4);
            assertThat(writer.limitedSamples()).isEqualTo(2);
        }
    }

    /** Places of the fields as EBU Tech 3285 lists them, from the beginning of the chunk's content. */
    @Test
    void a_wav_file_says_what_it_is_in_a_broadcast_extension() throws Exception {
        byte[] bytes = Files.readAllBytes(written(RenderFormat.WAV_24, 2, FRAMES));
        ByteBuffer file = ByteBuffer.wrap(bytes).order(ByteOrder.LITTLE_ENDIAN);
        assertThat(text(bytes, 12, 4)).isEqualTo("bext");
        int size = file.getInt(16);
        int at = 20;
        assertThat(text(bytes, at, 256)).isEqualTo("Reel: Fiddle");
        assertThat(text(bytes, at + 256, 32)).isEqualTo("Waterwheel");
        assertThat(file.getLong(at + 338)).isEqualTo(5_000_000_000L);
        assertThat(file.getShort(at + 346)).isEqualTo((short) 2);
        for (int i = 0; i < 5; i++) {
            assertThat(file.getShort(at + 412 + 2 * i)).isEqualTo((short) 0x7FFF);
        }
        assertThat(text(bytes, at + 602, size - 602)).isEqualTo("A=PCM,F=48000,W=24,M=stereo,T=Waterwheel\r\n");
        try (AudioFile read = AudioFiles.open(folder.resolve("file.wav"))) {
            assertThat(read.format().timeReferenceFrames()).hasValue(5_000_000_000L);
        }
    }

    private static String text(byte[] bytes, int from, int width) {
        int end = from;
        while (end < from + width && bytes[end] != 0) {
            end++;
        }
        return new String(bytes, from, end - from, StandardCharsets.US_ASCII);
    }
}
