package waterwheel.core.audiofile;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatExceptionOfType;
import static org.junit.jupiter.api.Assertions.assertTimeoutPreemptively;

import java.io.ByteArrayOutputStream;
import java.io.InputStream;
import java.lang.foreign.MemorySegment;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.List;
import java.util.Objects;
import java.util.Random;
import java.util.SplittableRandom;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.errors.AudioFileException;

/** Streams put together frame by frame from one that another program encoded (SoX 14.4.2). */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class FlacFileTest {
    private static final int INFO_AT = 8;
    private static final int DIGEST_AT = INFO_AT + 18;
    private static final int FRAMES = 5_000;

    @TempDir
    Path folder;

    private byte[] head = {};
    private final List<byte[]> frames = new ArrayList<>();

    @BeforeEach
    void take_a_stream_apart() throws Exception {
        try (InputStream in = Objects.requireNonNull(FlacFileTest.class.getResourceAsStream("pattern-16.flac"))) {
            byte[] all = in.readAllBytes();
            MemorySegment file = MemorySegment.ofArray(all);
            FlacStream stream = FlacStream.of(file, 0);
            head = Arrays.copyOf(all, (int) stream.audioAt());
            FlacFrames decoder = new FlacFrames(file, stream.audioAt(), stream.channels(), stream.sampleBits());
            int at = (int) stream.audioAt();
            while (decoder.atFrame()) {
                decoder.next();
                frames.add(Arrays.copyOfRange(all, at, (int) decoder.bytePosition()));
                at = (int) decoder.bytePosition();
            }
            assertThat(at).isEqualTo(all.length);
            assertThat(frames).hasSizeGreaterThan(1);
        }
    }

    private static byte[] joined(List<byte[]> parts) {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        parts.forEach(out::writeBytes);
        return out.toByteArray();
    }

    private Path file(byte[] begin, List<byte[]> middle, byte[] end) throws Exception {
        return Files.write(folder.resolve("made.flac"), joined(List.of(begin, joined(middle), end)));
    }

    private float[][] read(Path file) throws Exception {
        try (AudioFile audio = AudioFiles.open(file)) {
            int length = (int) audio.format().frames();
            float[][] planes = new float[audio.format().channels()][length];
            audio.reader(Math.max(1, length)).read(0, planes, 0, length);
            return planes;
        }
    }

    private void assertWhole(Path file) throws Exception {
        float[][] planes = read(file);
        assertThat(planes).hasDimensions(2, FRAMES);
        for (int i = 0; i < FRAMES; i++) {
            assertThat(planes[0][i]).as("left %d", i).isEqualTo((i * 37 % 4_001 - 2_000) / 32_768f);
            assertThat(planes[1][i]).as("right %d", i).isEqualTo((i * 53 % 6_007 - 3_000) / 32_768f);
        }
    }

    private byte[] headWithout(boolean digest, boolean length) {
        byte[] changed = head.clone();
        if (!digest) {
            Arrays.fill(changed, DIGEST_AT, DIGEST_AT + 16, (byte) 0);
        }
        if (!length) {
            changed[INFO_AT + 13] &= (byte) 0xF0;
            Arrays.fill(changed, INFO_AT + 14, INFO_AT + 18, (byte) 0);
        }
        return changed;
    }

    private static byte[] endTag() {
        byte[] tag = new byte[128];
        System.arraycopy("TAGSong".getBytes(StandardCharsets.US_ASCII), 0, tag, 0, 7);
        return tag;
    }

    @Nested
    class Valid {
        @Test
        void a_stream_without_a_sum_of_its_samples() throws Exception {
            assertWhole(file(headWithout(false, true), frames, new byte[0]));
        }

        @Test
        void a_stream_that_does_not_say_how_long_it_is() throws Exception {
            assertWhole(file(headWithout(true, false), frames, new byte[0]));
            assertWhole(file(headWithout(false, false), frames, new byte[0]));
        }

        @Test
        void a_tag_of_another_kind_before_or_behind_it() throws Exception {
            byte[] before = new byte[10 + 300];
            System.arraycopy(new byte[] {'I', 'D', '3', 4, 0, 0, 0, 0, 2, 44}, 0, before, 0, 10);
            assertWhole(file(joined(List.of(before, head)), frames, new byte[0]));
            assertThat(AudioFiles.sampleRateHz(folder.resolve("made.flac"))).isPresent();
            assertWhole(file(head, frames, endTag()));
            assertWhole(file(joined(List.of(before, headWithout(false, false))), frames, endTag()));
        }
    }

    @Nested
    class Damaged {
        private void assertRefused(byte[] begin, List<byte[]> middle, byte[] end) throws Exception {
            Path made = file(begin, middle, end);
            assertTimeoutPreemptively(Duration.ofSeconds(10), () -> assertThatExceptionOfType(AudioFileException.class)
                    .isThrownBy(() -> read(made))
                    .withMessageContaining("made.flac is a FLAC file that is damaged"));
        }

        @Test
        void a_frame_that_stands_again_and_again() throws Exception {
            for (byte[] begin : List.of(head, headWithout(false, true), headWithout(false, false))) {
                assertRefused(begin, Collections.nCopies(50, frames.getFirst()), new byte[0]);
            }
        }

        @Test
        void frames_in_another_order_or_missing() throws Exception {
            List<byte[]> turned = new ArrayList<>(frames);
            Collections.reverse(turned);
            assertRefused(headWithout(false, false), turned, new byte[0]);
            assertRefused(headWithout(false, true), frames.subList(0, frames.size() - 1), new byte[0]);
            assertRefused(headWithout(false, true), frames.subList(1, frames.size()), new byte[0]);
        }

        @Test
        void a_frame_that_ends_early() throws Exception {
            byte[] last = frames.getLast();
            List<byte[]> cut = new ArrayList<>(frames);
            for (int length = 1; length < last.length; length += 7) {
                cut.set(cut.size() - 1, Arrays.copyOf(last, length));
                assertRefused(headWithout(false, false), cut, new byte[0]);
            }
        }

        @Test
        void something_else_between_or_behind_the_frames() throws Exception {
            assertRefused(headWithout(false, false), frames, new byte[] {1, 2, 3});
            List<byte[]> between = new ArrayList<>(frames);
            between.add(1, new byte[100]);
            assertRefused(headWithout(false, true), between, new byte[0]);
        }

        @Test
        void more_frames_than_the_stream_states() throws Exception {
            byte[] fewer = head.clone();
            fewer[INFO_AT + 17] = 1;
            assertRefused(fewer, frames, new byte[0]);
        }
    }

    /** Whatever stands in the frames: reading ends, with the very samples or with a sentence. */
    @Test
    void frames_shuffled_repeated_cut_and_flipped_are_read_or_refused_in_no_time() throws Exception {
        SplittableRandom random = new SplittableRandom(16);
        byte[] begin = headWithout(false, false);
        for (int round = 0; round < 600; round++) {
            List<byte[]> made = new ArrayList<>(frames);
            switch (random.nextInt(4)) {
                case 0 -> Collections.shuffle(made, new Random(round));
                case 1 -> made.addAll(random.nextInt(made.size()), frames);
                case 2 -> made.removeIf(frame -> random.nextInt(3) == 0);
                default -> {}
            }
            byte[] body = joined(made);
            for (int i = random.nextInt(4); i > 0 && body.length > 0; i--) {
                body[random.nextInt(body.length)] ^= (byte) (1 << random.nextInt(8));
            }
            byte[] cut = random.nextInt(3) == 0 ? Arrays.copyOf(body, random.nextInt(body.length + 1)) : body;
            Path file = file(begin, List.of(cut), new byte[0]);
            assertTimeoutPreemptively(Duration.ofSeconds(10), () -> {
                try {
                    assertThat(read(file)[0].length).isLessThanOrEqualTo(FRAMES);
                } catch (AudioFileException e) {
                    assertThat(e.getMessage()).contains("made.flac").doesNotContain("Exception");
                }
            });
        }
    }
}
