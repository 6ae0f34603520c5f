package waterwheel.core.audiofile;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatExceptionOfType;

import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Objects;
import java.util.SplittableRandom;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.errors.AudioFileException;

/** Files written byte by byte as their documents have them, not by our own writer. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class FormatsTest {
    private static final int ALL_ONES = -1;

    @TempDir
    Path folder;

    /** Bytes in one order, chunk after chunk. */
    private static final class Bytes {
        private final ByteBuffer buffer;

        Bytes(ByteOrder order) {
            buffer = ByteBuffer.allocate(4_096).order(order);
        }

        Bytes id(String text) {
            buffer.put(text.getBytes(StandardCharsets.ISO_8859_1));
            return this;
        }

        Bytes four(int... values) {
            for (int value : values) {
                buffer.putInt(value);
            }
            return this;
        }

        Bytes two(int... values) {
            for (int value : values) {
                buffer.putShort((short) value);
            }
            return this;
        }

        Bytes eight(long value) {
            buffer.putLong(value);
            return this;
        }

        Bytes raw(int... values) {
            for (int value : values) {
                buffer.put((byte) value);
            }
            return this;
        }

        Bytes format(int tag, int channels, int rate, int containerBytes, int bits) {
            return id("fmt ")
                    .four(16)
                    .two(tag, channels)
                    .four(rate, rate * channels * containerBytes)
                    .two(channels * containerBytes, bits);
        }

        Path write(Path file) throws Exception {
            return Files.write(file, Arrays.copyOf(buffer.array(), buffer.position()));
        }
    }

    private static Bytes riff() {
        return new Bytes(ByteOrder.LITTLE_ENDIAN).id("RIFF").four(4_000).id("WAVE");
    }

    /** A file in the long form that says of two frames of 16 bits, mono; they follow. */
    private static Bytes longForm(String id) {
        return new Bytes(ByteOrder.LITTLE_ENDIAN)
                .id(id)
                .four(ALL_ONES)
                .id("WAVE")
                .id("ds64")
                .four(28)
                .eight(100)
                .eight(4)
                .eight(2)
                .four(0)
                .format(1, 1, 96_000, 2, 16)
                .id("data")
                .four(ALL_ONES);
    }

    /** A common chunk at 44.1 kHz, whose rate is 0x400E AC44 as an 80-bit number. */
    private static Bytes aiff(String kind, int channels, int frames, int bits, String compression) {
        boolean compressed = kind.equals("AIFC");
        Bytes bytes = new Bytes(ByteOrder.BIG_ENDIAN).id("FORM").four(4_000).id(kind);
        bytes.id("COMM").four(compressed ? 24 : 18).two(channels).four(frames).two(bits);
        bytes.two(0x400E).four(0xAC44_0000, 0);
        return compressed ? bytes.id(compression).two(0) : bytes;
    }

    private float[][] read(Path file) throws Exception {
        try (AudioFile audio = AudioFiles.open(file)) {
            AudioFormat format = audio.format();
            int frames = (int) format.frames();
            float[][] planes = new float[format.channels()][frames];
            audio.reader(Math.max(1, frames)).read(0, planes, 0, frames);
            return planes;
        }
    }

    private AudioFormat format(Path file) throws Exception {
        try (AudioFile audio = AudioFiles.open(file)) {
            return audio.format();
        }
    }

    @Nested
    class Wav {
        @Test
        void eight_bit_samples_are_offset_by_128() throws Exception {
            Path file = riff().format(1, 1, 8_000, 1, 8)
                    .id("data")
                    .four(4)
                    .raw(0, 128, 192, 255)
                    .write(folder.resolve("eight.wav"));
            assertThat(read(file)[0]).containsExactly(-1, 0, 0.5f, 127 / 128f);
        }

        @Test
        void twenty_bits_in_three_bytes_are_the_upper_ones() throws Exception {
            Path file = riff().id("fmt ")
                    .four(40)
                    .two(0xFFFE, 1)
                    .four(48_000, 144_000)
                    .two(3, 24, 22, 20)
                    .four(4)
                    .two(1, 0, 0, 0x10)
                    .raw(0x80, 0, 0, 0xAA, 0, 0x38, 0x9B, 0x71)
                    .id("data")
                    .four(6)
                    .raw(0, 0, 0x40, 0, 0, 0xC0)
                    .write(folder.resolve("twenty.wav"));
            assertThat(read(file)[0]).containsExactly(0.5f, -0.5f);
        }

        @Test
        void the_long_form_takes_its_length_from_its_own_chunk() throws Exception {
            for (String id : new String[] {"RF64", "BW64"}) {
                Path file = longForm(id)
                        .two(0x4000, -0x4000)
                        .id("LIST")
                        .four(4)
                        .id("junk")
                        .write(folder.resolve(id + ".wav"));
                assertThat(read(file)[0]).as(id).containsExactly(0.5f, -0.5f);
                assertThat(format(file).truncated()).isFalse();
            }
        }

        @Test
        void a_broadcast_wave_says_where_it_belongs() throws Exception {
            Bytes bytes = riff().id("bext")
                    .four(602)
                    .raw(new int[338])
                    .eight(3_600L * 48_000)
                    .raw(new int[256]);
            Path file =
                    bytes.format(1, 1, 48_000, 2, 16).id("data").four(2).two(1).write(folder.resolve("broadcast.wav"));
            assertThat(format(file).timeReferenceFrames()).hasValue(172_800_000);
        }

        @Test
        void lengths_that_a_stream_never_filled_in_go_to_the_end_of_the_file() throws Exception {
            for (int stated : new int[] {0, ALL_ONES}) {
                Path file = new Bytes(ByteOrder.LITTLE_ENDIAN)
                        .id("RIFF")
                        .four(stated)
                        .id("WAVE")
                        .format(1, 1, 48_000, 2, 16)
                        .id("data")
                        .four(stated)
                        .two(0x4000, 0x2000, 0x1000)
                        .write(folder.resolve("stream.wav"));
                assertThat(read(file)[0]).containsExactly(0.5f, 0.25f, 0.125f);
                assertThat(format(file).truncated()).as("a stream is whole").isFalse();
            }
        }

        @Test
        void an_empty_data_chunk_of_a_finished_file_is_empty() throws Exception {
            Path file = riff().format(1, 1, 48_000, 2, 16)
                    .id("data")
                    .four(0)
                    .id("LIST")
                    .four(4)
                    .id("junk")
                    .write(folder.resolve("empty.wav"));
            assertThat(format(file).frames()).isZero();
        }

        @Test
        void an_odd_chunk_is_passed_over_with_its_padding_and_without() throws Exception {
            Path padded = riff().id("note")
                    .four(3)
                    .raw(1, 2, 3, 0)
                    .format(1, 1, 48_000, 2, 16)
                    .id("data")
                    .four(2)
                    .two(0x4000)
                    .write(folder.resolve("padded.wav"));
            Path bare = riff().id("note")
                    .four(3)
                    .raw(1, 2, 3)
                    .format(1, 1, 48_000, 2, 16)
                    .id("data")
                    .four(2)
                    .two(0x4000)
                    .write(folder.resolve("bare.wav"));
            assertThat(read(padded)[0]).containsExactly(0.5f);
            assertThat(read(bare)[0]).containsExactly(0.5f);
        }

        @Test
        void channels_of_a_wide_file_come_out_apart() throws Exception {
            Path file = riff().format(1, 4, 48_000, 2, 16)
                    .id("data")
                    .four(16)
                    .two(0x4000, 0, -0x4000, 1, 0x2000, 0, -0x2000, 2)
                    .write(folder.resolve("four.wav"));
            float[][] planes = read(file);
            assertThat(planes).hasDimensions(4, 2);
            assertThat(planes[0]).containsExactly(0.5f, 0.25f);
            assertThat(planes[2]).containsExactly(-0.5f, -0.25f);
            assertThat(planes[3]).containsExactly(1 / 32_768f, 2 / 32_768f);
        }

        @Test
        void a_thousand_channels_are_refused() throws Exception {
            Path file = riff().format(1, 1_000, 48_000, 2, 16)
                    .id("data")
                    .four(4)
                    .two(0, 0)
                    .write(folder.resolve("crowd.wav"));
            assertThatExceptionOfType(AudioFileException.class)
                    .isThrownBy(() -> format(file))
                    .withMessage("crowd.wav states 1000 channels. Export it again, mono or stereo.");
        }
    }

    @Nested
    class Aiff {
        @Test
        void samples_are_big_endian_and_signed() throws Exception {
            Path sixteen = aiff("AIFF", 2, 2, 16, "")
                    .id("SSND")
                    .four(16, 0, 0)
                    .two(0x4000, -0x4000, 0x2000, 1)
                    .write(folder.resolve("sixteen.aiff"));
            assertThat(read(sixteen)[0]).containsExactly(0.5f, 0.25f);
            assertThat(read(sixteen)[1]).containsExactly(-0.5f, 1 / 32_768f);
            assertThat(format(sixteen).sampleRateHz()).isEqualTo(44_100);
            Path twentyFour = aiff("AIFF", 1, 3, 24, "")
                    .id("SSND")
                    .four(17, 0, 0)
                    .raw(0x40, 0, 0, 0xC0, 0, 0, 0, 0, 1)
                    .write(folder.resolve("twentyfour.aif"));
            assertThat(read(twentyFour)[0]).containsExactly(0.5f, -0.5f, 1 / 8_388_608f);
            Path eight = aiff("AIFF", 1, 2, 8, "")
                    .id("SSND")
                    .four(10, 0, 0)
                    .raw(0x40, 0xC0)
                    .write(folder.resolve("eight.aif"));
            assertThat(read(eight)[0]).containsExactly(0.5f, -0.5f);
        }

        @Test
        void the_compressed_kind_may_hold_little_endian_or_float_samples() throws Exception {
            Path little = aiff("AIFC", 1, 2, 16, "sowt")
                    .id("SSND")
                    .four(12, 0, 0)
                    .raw(0, 0x40, 0, 0xC0)
                    .write(folder.resolve("little.aifc"));
            assertThat(read(little)[0]).containsExactly(0.5f, -0.5f);
            Path single = aiff("AIFC", 2, 1, 32, "fl32")
                    .id("SSND")
                    .four(16, 0, 0)
                    .four(Float.floatToIntBits(1.5f), Float.floatToIntBits(-0.25f))
                    .write(folder.resolve("single.aifc"));
            assertThat(read(single)[0]).containsExactly(1.5f);
            assertThat(read(single)[1]).containsExactly(-0.25f);
            Path wide = aiff("AIFC", 1, 1, 64, "fl64")
                    .id("SSND")
                    .four(16, 0, 0)
                    .eight(Double.doubleToLongBits(-0.125))
                    .write(folder.resolve("wide.aifc"));
            assertThat(read(wide)[0]).containsExactly(-0.125f);
        }

        @Test
        void an_offset_before_the_samples_is_honoured() throws Exception {
            Path file = aiff("AIFF", 1, 1, 16, "")
                    .id("SSND")
                    .four(14, 4, 0)
                    .four(-1)
                    .two(0x4000)
                    .write(folder.resolve("offset.aiff"));
            assertThat(read(file)[0]).containsExactly(0.5f);
        }

        @Test
        void a_compression_that_is_not_read_is_named() throws Exception {
            Path file = aiff("AIFC", 1, 1, 16, "ima4")
                    .id("SSND")
                    .four(10, 0, 0)
                    .two(0)
                    .write(folder.resolve("packed.aifc"));
            assertThatExceptionOfType(AudioFileException.class)
                    .isThrownBy(() -> format(file))
                    .withMessageContaining("packed.aifc")
                    .withMessageContaining("ima4");
        }
    }

    /** The files in the resources were encoded by another program (SoX 14.4.2) from the samples computed here. */
    @Nested
    class Flac {
        private Path resource(String name) throws Exception {
            Path file = folder.resolve(name);
            try (InputStream in = Objects.requireNonNull(FormatsTest.class.getResourceAsStream(name))) {
                Files.copy(in, file);
            }
            return file;
        }

        @Test
        void sixteen_bit_stereo_comes_out_sample_by_sample() throws Exception {
            float[][] planes = read(resource("pattern-16.flac"));
            assertThat(planes).hasDimensions(2, 5_000);
            for (int i = 0; i < 5_000; i++) {
                assertThat(planes[0][i]).as("left %d", i).isEqualTo((i * 37 % 4_001 - 2_000) / 32_768f);
                assertThat(planes[1][i]).as("right %d", i).isEqualTo((i * 53 % 6_007 - 3_000) / 32_768f);
            }
        }

        @Test
        void twenty_four_bit_mono_comes_out_sample_by_sample() throws Exception {
            float[][] planes = read(resource("pattern-24.flac"));
            for (int i = 0; i < 5_000; i++) {
                assertThat(planes[0][i]).as("sample %d", i).isEqualTo((i * 7_919 % 1_000_003 - 500_000) / 8_388_608f);
            }
        }

        @Test
        void the_rate_is_known_without_decoding() throws Exception {
            assertThat(AudioFiles.sampleRateHz(resource("pattern-24.flac"))).hasValue(48_000);
            assertThat(AudioFiles.sampleRateHz(
                            Files.write(folder.resolve("short.flac"), "fLaC".getBytes(StandardCharsets.US_ASCII))))
                    .isEmpty();
            assertThat(AudioFiles.sampleRateHz(folder.resolve("not there.wav"))).isEmpty();
        }

        @Test
        void a_flipped_bit_is_noticed() throws Exception {
            Path file = resource("pattern-16.flac");
            byte[] bytes = Files.readAllBytes(file);
            bytes[bytes.length / 2] ^= 4;
            Files.write(file, bytes);
            assertThatExceptionOfType(AudioFileException.class)
                    .isThrownBy(() -> read(file))
                    .withMessageContaining("pattern-16.flac is a FLAC file that is damaged");
        }
    }

    @Test
    void whatever_bytes_a_file_holds_it_is_read_or_refused_in_words() throws Exception {
        Path[] whole = {
            aiff("AIFC", 1, 4, 16, "sowt")
                    .id("SSND")
                    .four(16, 0, 0)
                    .two(1, 2, 3, 4)
                    .write(folder.resolve("a")),
            longForm("RF64").two(1, 2).write(folder.resolve("b")),
            Files.write(
                    folder.resolve("c"),
                    Objects.requireNonNull(FormatsTest.class.getResourceAsStream("pattern-24.flac"))
                            .readAllBytes())
        };
        SplittableRandom random = new SplittableRandom(11);
        for (Path one : whole) {
            byte[] original = Files.readAllBytes(one);
            for (int round = 0; round < 1_200; round++) {
                byte[] mutated = random.nextInt(4) == 0
                        ? Arrays.copyOf(original, random.nextInt(original.length))
                        : original.clone();
                for (int i = 0; i < 1 + random.nextInt(6) && mutated.length > 0; i++) {
                    mutated[random.nextInt(Math.min(120, mutated.length))] = (byte) random.nextInt();
                }
                Path file = Files.write(folder.resolve("mutated"), mutated);
                try {
                    read(file);
                } catch (AudioFileException e) {
                    assertThat(e.getMessage()).contains("mutated").doesNotContain("Exception");
                }
            }
        }
    }
}
