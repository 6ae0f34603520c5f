package waterwheel.core.audiofile;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatExceptionOfType;
import static org.assertj.core.api.Assertions.within;

import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.SplittableRandom;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.testing.Signals;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class WavTest {
    @TempDir
    Path folder;

    private static float[][] read(Path file) throws AudioFileException {
        try (AudioFile audio = AudioFiles.open(file)) {
            int frames = (int) audio.format().frames();
            float[][] planes = new float[audio.format().channels()][frames];
            audio.reader(frames).read(0, planes, 0, frames);
            return planes;
        }
    }

    /** A WAV file by hand: format chunk, then any bytes as its data chunk. */
    private Path byHand(int tag, int channels, int bits, byte[] data, int statedDataBytes) throws Exception {
        ByteBuffer file = ByteBuffer.allocate(44 + data.length).order(ByteOrder.LITTLE_ENDIAN);
        file.put("RIFF".getBytes(StandardCharsets.US_ASCII)).putInt(36 + statedDataBytes);
        file.put("WAVEfmt ".getBytes(StandardCharsets.US_ASCII)).putInt(16);
        file.putShort((short) tag).putShort((short) channels).putInt(48_000);
        file.putInt(48_000 * channels * bits / 8)
                .putShort((short) (channels * bits / 8))
                .putShort((short) bits);
        file.put("data".getBytes(StandardCharsets.US_ASCII))
                .putInt(statedDataBytes)
                .put(data);
        return Files.write(folder.resolve("hand.wav"), file.array());
    }

    @Nested
    class Reading {
        @Test
        void sixteen_bit_samples_are_divided_by_32768() throws Exception {
            byte[] data = {0, (byte) 0x80, (byte) 0xFF, 0x7F, 0, 0x40};
            assertThat(read(byHand(1, 1, 16, data, 6))[0]).containsExactly(-1, 32_767 / 32_768f, 0.5f);
        }

        @ParameterizedTest
        @ValueSource(ints = {1, 2, 3})
        void twenty_four_bit_samples_are_divided_by_8388608_at_every_place(int channels) throws Exception {
            int[] values = {-8_388_608, 8_388_607, 1, -1, 4_194_304, -3, 123_456, -654_321, 8, 0, -2, 7};
            byte[] data = new byte[3 * values.length];
            for (int i = 0; i < values.length; i++) {
                data[3 * i] = (byte) values[i];
                data[3 * i + 1] = (byte) (values[i] >> 8);
                data[3 * i + 2] = (byte) (values[i] >> 16);
            }
            Path file = byHand(1, channels, 24, data, data.length);
            float[][] whole = read(file);
            for (int i = 0; i < values.length; i++) {
                assertThat(whole[i % channels][i / channels]).as("sample %d", i).isEqualTo(values[i] / 8_388_608f);
            }
            try (AudioFile audio = AudioFiles.open(file)) {
                float[][] part = new float[channels][5];
                audio.reader(8).read(1, part, 2, 3);
                for (int c = 0; c < channels; c++) {
                    assertThat(part[c]).containsExactly(0, 0, whole[c][1], whole[c][2], whole[c][3]);
                }
            }
        }

        @Test
        void thirty_two_bit_and_64_bit_float_samples_are_read() throws Exception {
            byte[] fixed = {0, 0, 0, (byte) 0x80, 0, 0, 0, 0x20};
            assertThat(read(byHand(1, 1, 32, fixed, 8))[0]).containsExactly(-1, 0.25f);
            byte[] wide = ByteBuffer.allocate(16)
                    .order(ByteOrder.LITTLE_ENDIAN)
                    .putDouble(1.5)
                    .putDouble(-0.125)
                    .array();
            assertThat(read(byHand(3, 1, 64, wide, 16))[0]).containsExactly(1.5f, -0.125f);
        }

        @Test
        void samples_that_are_no_numbers_come_out_as_silence() throws Exception {
            byte[] data = ByteBuffer.allocate(16)
                    .order(ByteOrder.LITTLE_ENDIAN)
                    .putFloat(Float.NaN)
                    .putFloat(0.5f)
                    .putFloat(Float.NEGATIVE_INFINITY)
                    .putFloat(-2)
                    .array();
            float[][] planes = read(byHand(3, 2, 32, data, 16));
            assertThat(planes[0]).containsExactly(0, 0);
            assertThat(planes[1]).containsExactly(0.5f, -2);
        }

        @Test
        void odd_chunks_before_the_data_are_passed_over() throws Exception {
            ByteBuffer file = ByteBuffer.allocate(70).order(ByteOrder.LITTLE_ENDIAN);
            file.put("RIFF".getBytes(StandardCharsets.US_ASCII)).putInt(62);
            file.put("WAVEodd ".getBytes(StandardCharsets.US_ASCII)).putInt(3).put(new byte[4]);
            file.put("fmt ".getBytes(StandardCharsets.US_ASCII)).putInt(16);
            file.putShort((short) 1).putShort((short) 1).putInt(44_100).putInt(88_200);
            file.putShort((short) 2).putShort((short) 16);
            file.put("data".getBytes(StandardCharsets.US_ASCII)).putInt(4).putInt(0x2000_4000);
            Path path = Files.write(folder.resolve("odd.wav"), file.array());
            assertThat(read(path)[0]).startsWith(0.5f, 0.25f);
        }

        @Test
        void a_data_length_beyond_the_file_gives_what_is_there_and_says_so() throws Exception {
            Path file = byHand(1, 2, 16, new byte[8], Integer.MAX_VALUE);
            try (AudioFile audio = AudioFiles.open(file)) {
                assertThat(audio.format().frames()).isEqualTo(2);
                assertThat(audio.format().truncated()).isTrue();
            }
        }
    }

    @Nested
    class Refusals {
        @ParameterizedTest
        @CsvSource({"0", "3", "11", "12", "20", "43"})
        void a_file_cut_off_in_its_header_is_refused(int bytes) throws Exception {
            byte[] whole = Files.readAllBytes(byHand(1, 1, 16, new byte[2], 2));
            Path cut = Files.write(folder.resolve("cut.wav"), Arrays.copyOf(whole, bytes));
            assertThatExceptionOfType(AudioFileException.class)
                    .isThrownBy(() -> AudioFiles.open(cut))
                    .withMessageContaining("cut.wav");
        }

        @Test
        void whatever_bytes_a_file_holds_it_is_read_or_refused_in_words() throws Exception {
            byte[] whole = Files.readAllBytes(
                    Signals.wav(folder.resolve("whole.wav"), 48_000, SampleEncoding.PCM_24, Signals.noise(0.5, 50, 1)));
            SplittableRandom random = new SplittableRandom(7);
            for (int round = 0; round < 3_000; round++) {
                byte[] mutated = whole.clone();
                for (int i = 0; i < 1 + random.nextInt(6); i++) {
                    mutated[random.nextInt(44)] = (byte) random.nextInt();
                }
                Path file = Files.write(folder.resolve("mutated.wav"), mutated);
                try {
                    assertThat(read(file)).isNotEmpty();
                } catch (AudioFileException e) {
                    assertThat(e.getMessage()).contains("mutated.wav").doesNotContain("Exception");
                }
            }
        }
    }

    @Nested
    class Writing {
        @ParameterizedTest
        @CsvSource({"PCM_16, 1.5", "PCM_24, 1.5", "FLOAT_32, 0"})
        void what_was_written_is_read_back_within_dither_and_rounding(SampleEncoding encoding, double steps)
                throws Exception {
            float[] left = Signals.noise(0.9, 5_001, 1);
            float[] right = Signals.noise(0.9, 5_001, 2);
            float[][] back = read(Signals.wav(folder.resolve("x.wav"), 44_100, encoding, left, right));
            double limit = encoding.fixedPoint() ? steps / encoding.fullScaleSteps() : 0;
            for (int i = 0; i < left.length; i++) {
                assertThat((double) back[0][i]).isCloseTo(left[i], within(limit + 1e-9));
                assertThat((double) back[1][i]).isCloseTo(right[i], within(limit + 1e-9));
            }
        }

        @Test
        void the_dither_of_files_that_are_summed_later_is_not_the_same_noise() throws Exception {
            float[] one = silenceWrittenAs("Fiddle.wav");
            float[] other = silenceWrittenAs("Harmonium.wav");
            double product = 0;
            double energy = 0;
            for (int i = 0; i < one.length; i++) {
                product += one[i] * other[i];
                energy += one[i] * one[i];
            }
            assertThat(energy).as("dither").isPositive();
            // Independent noise: 1/sqrt(48,000) is 0.005.
            assertThat(product / energy).as("correlation").isCloseTo(0, within(0.03));
        }

        private float[] silenceWrittenAs(String name) throws Exception {
            float[][] silence = new float[1][48_000];
            Path file = folder.resolve(name);
            try (WavWriter writer = WavWriter.create(file, 1, 48_000, SampleEncoding.PCM_16, silence[0].length)) {
                writer.write(silence, 0, silence[0].length);
                writer.finish();
            }
            try (AudioFile read = AudioFiles.open(file)) {
                float[][] back = new float[1][silence[0].length];
                read.reader(silence[0].length).read(0, back, 0, silence[0].length);
                return back[0];
            }
        }

        @Test
        void dither_makes_the_mean_of_many_samples_finer_than_a_step() throws Exception {
            float value = 0.3f / 32_768;
            float[] constant = new float[200_000];
            Arrays.fill(constant, value);
            float[] back = read(Signals.wav(folder.resolve("dc.wav"), 48_000, SampleEncoding.PCM_16, constant))[0];
            double sum = 0;
            for (float sample : back) {
                sum += sample;
            }
            // TPDF: variance a quarter step² of dither beside rounding's; the mean of 200,000 is within 0.006 steps.
            assertThat(sum / back.length * 32_768).isCloseTo(0.3, within(0.006));
        }

        @Test
        void the_same_audio_gives_the_same_bytes_however_it_is_cut_into_blocks() throws Exception {
            float[][] planes = {Signals.noise(0.5, 1_000, 3), Signals.noise(0.5, 1_000, 4)};
            byte[] whole =
                    Files.readAllBytes(Signals.wav(folder.resolve("song.wav"), 48_000, SampleEncoding.PCM_24, planes));
            Path cut = Files.createDirectory(folder.resolve("cut")).resolve("song.wav");
            try (WavWriter writer = WavWriter.create(cut, 2, 48_000, SampleEncoding.PCM_24, 1_000)) {
                for (int at = 0; at < 1_000; at += 125) {
                    writer.write(planes, at, 125);
                }
                writer.finish();
            }
            assertThat(Files.readAllBytes(cut)).isEqualTo(whole);
        }

        @ParameterizedTest
        @EnumSource(names = {"PCM_16", "PCM_24", "FLOAT_32"})
        void a_file_too_long_for_the_short_form_is_written_in_the_long_one(SampleEncoding encoding) throws Exception {
            float[][] planes = {Signals.noise(0.5, 1_001, 3), Signals.noise(0.5, 1_001, 4)};
            Path file = folder.resolve("long.wav");
            try (WavWriter writer = WavWriter.create(file, 2, 48_000, encoding, 1_001, false, 1_000, null)) {
                writer.write(planes, 0, 1_001);
                writer.finish();
            }
            ByteBuffer bytes = ByteBuffer.wrap(Files.readAllBytes(file)).order(ByteOrder.LITTLE_ENDIAN);
            long dataBytes = 1_001L * 2 * encoding.bytes();
            assertThat(new String(bytes.array(), 0, 4, StandardCharsets.US_ASCII))
                    .isEqualTo("RF64");
            assertThat(bytes.getInt(4))
                    .as("where the short form has its length")
                    .isEqualTo(-1);
            assertThat(new String(bytes.array(), 12, 4, StandardCharsets.US_ASCII))
                    .isEqualTo("ds64");
            assertThat(bytes.getLong(20)).as("all after the first eight bytes").isEqualTo(bytes.limit() - 8);
            assertThat(bytes.getLong(28)).as("bytes of samples").isEqualTo(dataBytes);
            assertThat(bytes.getLong(36)).as("frames").isEqualTo(1_001);
            assertThat(read(file)[0]).hasSize(1_001);
            assertThat(read(file)[1][1_000]).isCloseTo(planes[1][1_000], within(1 / 32_768f));
        }

        @Test
        void samples_over_the_limit_are_held_and_counted() throws Exception {
            try (WavWriter writer = WavWriter.create(folder.resolve("hot.wav"), 1, 48_000, SampleEncoding.PCM_16, 3)) {
                writer.write(new float[][] {{1.5f, 0, -1.5f}}, 0, 3);
                assertThat(writer.limitedSamples()).isEqualTo(2);
            }
        }

        @Test
        void a_writer_that_is_not_finished_leaves_nothing_behind() throws Exception {
            try (WavWriter writer =
                    WavWriter.create(folder.resolve("half.wav"), 1, 48_000, SampleEncoding.PCM_16, 100)) {
                writer.write(new float[1][100], 0, 50);
            }
            assertThat(folder).isEmptyDirectory();
        }
    }
}
