package waterwheel.core.intake;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatExceptionOfType;
import static org.assertj.core.api.Assertions.within;

import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CancellationException;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.audiofile.AudioFile;
import waterwheel.core.audiofile.AudioFiles;
import waterwheel.core.audiofile.JoinedChannels;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.audiofile.WavWriter;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.sources.SourceId;
import waterwheel.core.testing.Signals;
import waterwheel.core.testing.StopsAt;
import waterwheel.core.work.Progress;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class FileImportTest {
    @TempDir
    Path folder;

    private Path file(String name, int rate, int channels) throws Exception {
        float[][] planes = new float[channels][];
        for (int c = 0; c < channels; c++) {
            planes[c] = Signals.noise(0.5, rate / 10, c + 1);
        }
        return Signals.wav(folder.resolve(name), rate, SampleEncoding.PCM_24, planes);
    }

    private FileImport intake(boolean copy) {
        return new FileImport(folder.resolve("session"), 48_000, copy, false);
    }

    private float[][] read(Path file) throws Exception {
        try (AudioFile audio = AudioFiles.open(file)) {
            int frames = (int) audio.format().frames();
            float[][] planes = new float[audio.format().channels()][frames];
            audio.reader(frames).read(0, planes, 0, frames);
            return planes;
        }
    }

    @Test
    void a_file_that_is_played_directly_is_copied_byte_for_byte() throws Exception {
        Path file = file("voice.wav", 48_000, 2);
        ImportedFile taken = intake(true).take(file, Progress.NONE).getFirst();
        assertThat(taken.path()).isEqualTo("audio/voice.wav");
        assertThat(folder.resolve("session/audio/voice.wav")).hasSameBinaryContentAs(file);
    }

    @Test
    void a_linked_file_stays_where_it_is() throws Exception {
        Path file = file("voice.wav", 48_000, 1);
        ImportedFile taken = intake(false).take(file, Progress.NONE).getFirst();
        assertThat(Path.of(taken.path())).isEqualTo(file.toAbsolutePath());
        assertThat(folder.resolve("session")).doesNotExist();
    }

    @Test
    void another_file_of_the_same_name_gets_a_number() throws Exception {
        Path one = file("voice.wav", 48_000, 1);
        Path other =
                Files.copy(one, Files.createDirectory(folder.resolve("other")).resolve("voice.wav"));
        intake(true).take(one, Progress.NONE);
        assertThat(intake(true).take(other, Progress.NONE).getFirst().path()).isEqualTo("audio/voice 2.wav");
    }

    @Test
    void another_rate_is_converted_and_the_original_kept() throws Exception {
        Path file = file("voice.wav", 44_100, 1);
        ImportedFile taken = intake(true).take(file, Progress.NONE).getFirst();
        assertThat(taken.format().sampleRateHz()).isEqualTo(48_000);
        assertThat(taken.format().frames()).isEqualTo(4_800);
        assertThat(read(folder.resolve("session").resolve(taken.path()))[0]).hasSize(4_800);
        assertThat(folder.resolve("session/audio/originals/voice.wav")).hasSameBinaryContentAs(file);
    }

    @Test
    void a_file_of_many_channels_is_taken_whole_or_not_at_all() throws Exception {
        Path file = fourChannels();
        List<ImportedFile> taken = intake(true).take(file, Progress.NONE);
        assertThat(taken).extracting(ImportedFile::name).containsExactly("wide 1", "wide 2", "wide 3", "wide 4");
        for (int c = 0; c < 4; c++) {
            float[] samples =
                    read(folder.resolve("session").resolve(taken.get(c).path()))[0];
            assertThat(samples).hasSize(100).startsWith((c + 1) / 32_768f, (c + 1) / 32_768f);
        }
        FileImport other = new FileImport(folder.resolve("other"), 48_000, true, false);
        Progress stopsHalfway = new StopsAt(0.5);
        assertThatExceptionOfType(CancellationException.class).isThrownBy(() -> other.take(file, stopsHalfway));
        assertThat(folder.resolve("other/audio")).isEmptyDirectory();
    }

    @Test
    void what_an_import_that_was_killed_left_half_done_is_swept_by_the_next() throws Exception {
        Process dead = new ProcessBuilder("true").start();
        dead.waitFor();
        Path audio = Files.createDirectories(folder.resolve("session/audio"));
        Path half = Files.writeString(audio.resolve(".ww-part-" + dead.pid() + "-1-1"), "half");
        Path whole = Files.writeString(audio.resolve("whole.wav"), "whole");
        new FileImport(folder.resolve("session"), 48_000, true, false).takeAll(List.of(fourChannels()), Progress.NONE);
        assertThat(half).doesNotExist();
        assertThat(whole).exists();
    }

    @Test
    void channels_come_in_pairs_where_that_is_wanted() throws Exception {
        FileImport pairs = new FileImport(folder.resolve("session"), 48_000, true, true);
        FileImport.Taken taken = pairs.takeAll(List.of(fourChannels()), Progress.NONE);
        assertThat(taken.split()).isEqualTo(1);
        assertThat(taken.wide()).singleElement().satisfies(wide -> assertThat(wide.inWords())
                .startsWith("wide.wav (4 channels: L R Lb Rb) measures \u2212"));
        assertThat(taken.files()).extracting(f -> f.format().channels()).containsExactly(2, 2);
        float[][] second =
                read(folder.resolve("session").resolve(taken.files().get(1).path()));
        assertThat(second[0]).startsWith(3 / 32_768f, 3 / 32_768f);
        assertThat(second[1]).startsWith(4 / 32_768f, 4 / 32_768f);
    }

    @Test
    void samples_that_were_flattened_before_a_conversion_are_remembered() throws Exception {
        float[] clipped = Signals.sine(100, 6, 44_100, 1);
        for (int i = 0; i < clipped.length; i++) {
            clipped[i] = Math.clamp(clipped[i], -1, 1);
        }
        float[] quiet = new float[44_100];
        Path file = folder.resolve("hot.wav");
        float[] whole = Signals.joined(quiet, clipped);
        try (WavWriter writer = WavWriter.createExact(file, 1, 44_100, SampleEncoding.PCM_16, whole.length)) {
            writer.write(new float[][] {whole}, 0, whole.length);
            writer.finish();
        }
        ImportedFile taken = intake(true).take(file, Progress.NONE).getFirst();
        // A sine of 100 Hz has 200 crests in a second; the first begins to be cut at 30 degrees, 1/1200 s.
        assertThat(taken.flattening()).hasValueSatisfying(lost -> {
            assertThat(lost.runs()).isEqualTo(200);
            assertThat(lost.firstSeconds()).isCloseTo(1 + 1 / 1_200.0, within(1e-3));
        });
        assertThat(intake(true)
                        .take(file("clean.wav", 44_100, 1), Progress.NONE)
                        .getFirst()
                        .flattening())
                .isEmpty();
    }

    @Test
    void a_missing_file_is_found_by_what_it_holds_under_any_name() throws Exception {
        Path file = file("voice.wav", 48_000, 1);
        ImportedFile taken = intake(false).take(file, Progress.NONE).getFirst();
        AudioSource source = taken.source(new SourceId("s1"));
        Path elsewhere = Files.createDirectories(folder.resolve("a/b"));
        // Another file of the old name, and of the same length and format, must not be taken for it.
        Signals.wav(elsewhere.resolve("voice.wav"), 48_000, SampleEncoding.PCM_16, Signals.noise(0.2, 4_800, 99));
        Path renamed = Files.move(file, elsewhere.resolve("take 7.wav"));
        assertThat(Relink.find(List.of(source), folder.resolve("a"), Progress.NONE))
                .containsExactly(Map.entry(source.id(), renamed.toAbsolutePath()));
    }

    /** 100 frames of 16 bits, channel c holding the value c + 1 throughout. */
    private Path fourChannels() throws Exception {
        ByteBuffer bytes = ByteBuffer.allocate(44 + 800).order(ByteOrder.LITTLE_ENDIAN);
        bytes.put("RIFF".getBytes(StandardCharsets.US_ASCII)).putInt(36 + 800);
        bytes.put("WAVEfmt ".getBytes(StandardCharsets.US_ASCII))
                .putInt(16)
                .putShort((short) 1)
                .putShort((short) 4);
        bytes.putInt(48_000).putInt(384_000).putShort((short) 8).putShort((short) 16);
        bytes.put("data".getBytes(StandardCharsets.US_ASCII)).putInt(800);
        for (int i = 0; i < 400; i++) {
            bytes.putShort((short) (i % 4 + 1));
        }
        return Files.write(folder.resolve("wide.wav"), bytes.array());
    }

    @Test
    void many_files_come_in_the_order_named_and_none_overwrites_another() throws Exception {
        List<Path> files = new ArrayList<>();
        for (int i = 0; i < 12; i++) {
            Path inside = Files.createDirectory(folder.resolve("take " + i));
            files.add(Signals.wav(
                    inside.resolve("voice.wav"), 44_100, SampleEncoding.PCM_16, Signals.noise(0.5, 441 + i, i)));
        }
        files.add(5, Files.writeString(folder.resolve("list.wav"), "no audio"));
        FileImport.Taken taken = intake(true).takeAll(files, Progress.NONE);
        assertThat(taken.refused()).singleElement().asString().contains("list.wav");
        assertThat(taken.files()).hasSize(12);
        assertThat(taken.files()).extracting(ImportedFile::path).doesNotHaveDuplicates();
        for (int i = 0; i < 12; i++) {
            assertThat(taken.files().get(i).format().frames()).isEqualTo(Math.ceilDiv((441 + i) * 160, 147));
        }
    }

    @Test
    void two_mono_files_are_joined_without_loss() throws Exception {
        Path left = file("piano L.wav", 48_000, 1);
        Path right = file("piano R.wav", 48_000, 1);
        try (JoinedChannels both = new JoinedChannels(AudioFiles.open(left), AudioFiles.open(right))) {
            ImportedFile joined = intake(true).write(both, "piano", Progress.NONE);
            float[][] planes = read(folder.resolve("session").resolve(joined.path()));
            assertThat(planes[0]).containsExactly(read(left)[0]);
            assertThat(planes[1]).containsExactly(read(right)[0]);
        }
    }

    @Test
    void a_stopped_conversion_leaves_no_file() throws Exception {
        Path file =
                Signals.wav(folder.resolve("long.wav"), 44_100, SampleEncoding.PCM_16, Signals.noise(0.5, 200_000, 1));
        Progress stop = new StopsAt(0.5);
        assertThatExceptionOfType(CancellationException.class)
                .isThrownBy(() -> intake(true).take(file, stop));
        assertThat(folder.resolve("session/audio")).isEmptyDirectory();
    }

    @Test
    void what_is_no_audio_is_refused_by_name() throws Exception {
        Path file = Files.writeString(folder.resolve("list.wav"), "no audio at all");
        assertThatExceptionOfType(AudioFileException.class)
                .isThrownBy(() -> intake(true).take(file, Progress.NONE))
                .withMessageContaining("list.wav is not an audio file");
    }
}
