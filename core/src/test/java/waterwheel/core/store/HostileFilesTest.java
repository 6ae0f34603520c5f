package waterwheel.core.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatExceptionOfType;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.SplittableRandom;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.session.Session;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;

/** Session files that nobody would write on purpose. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class HostileFilesTest {
    @TempDir
    Path folder;

    private String text = "";

    @BeforeEach
    void a_saved_session() throws Exception {
        Session session = new Sessions(folder)
                .track("one", "bus", Signals.noise(0.1, 10, 1))
                .bus("bus", "main")
                .build();
        SessionFolder.save(session, folder);
        text = Files.readString(folder.resolve(SessionFolder.SESSION_FILE));
    }

    private void assertRefused(String changed, String... words) throws Exception {
        assertThat(changed).isNotEqualTo(text);
        Files.writeString(folder.resolve(SessionFolder.SESSION_FILE), changed);
        assertThatExceptionOfType(SessionFileException.class)
                .isThrownBy(() -> SessionFolder.load(folder))
                .satisfies(e -> assertThat(e.getMessage()).contains(words).hasSizeLessThan(1_500));
    }

    @Test
    void a_field_that_stands_twice_is_refused_with_its_place() throws Exception {
        assertRefused(
                text.replaceFirst("\"trimDb\" : 0.0,", "\"trimDb\" : 0.0,\n      \"trimDb\" : 6.0,"),
                "stands twice",
                "line ");
        assertRefused(
                text.replaceFirst("\"version\" : 1,", "\"version\" : 1, \"version\" : 1,"), "stands twice", "line 3");
    }

    @ParameterizedTest
    @ValueSource(strings = {"{}", "\u0000\u0000\u0000", "[1]", "null", "x", "}"})
    void what_stands_behind_the_document_is_refused_with_its_place(String behind) throws Exception {
        assertRefused(text + behind, "line " + (text.lines().count() + 1));
    }

    @ParameterizedTest
    @CsvSource({
        "startFrames, 2147483648000",
        "startFrames, 1099511627776",
        "lengthFrames, 8294400001",
        "lengthFrames, 1099511627776",
    })
    void a_song_of_more_than_48_hours_is_refused_before_anything_is_made_of_it(String field, long frames)
            throws Exception {
        assertRefused(
                text.replaceFirst("\"" + field + "\" : \\d+", "\"" + field + "\" : " + frames),
                frames > 1L << 40 ? field : "longer than 48 hours");
    }

    @Test
    void a_loop_of_a_thousand_buses_is_told_shortly() throws Exception {
        int id = text.indexOf("\"id\" : \"bus\"");
        int from = text.lastIndexOf('{', id);
        String before = text.substring(from, text.indexOf("\"id\" : \"main\"", id));
        String bus = before.substring(0, before.lastIndexOf('}') + 1);
        StringBuilder buses = new StringBuilder();
        for (int i = 0; i < 1_000; i++) {
            buses.append(bus.replace("\"id\" : \"bus\"", "\"id\" : \"b" + i + "\"")
                            .replace("\"output\" : \"main\"", "\"output\" : \"b" + (i + 1) % 1_000 + "\""))
                    .append(", ");
        }
        assertRefused(text.replace(bus, buses + bus), "routes in a loop", "more");
    }

    @Test
    void wrong_values_of_any_size_are_told_shortly() throws Exception {
        String huge = "9".repeat(900);
        assertRefused(text.replaceFirst("\"faderDb\" : 0.0", "\"faderDb\" : " + huge), "faderDb");
        assertRefused(
                text.replaceFirst("\"faderDb\" : 0.0", "\"faderDb\" : \"" + "y".repeat(1_000_000) + "\""), "faderDb");
        assertRefused(
                text.replaceFirst("\"kind\" : \"sustained\"", "\"kind\" : \"" + "z".repeat(1_000_000) + "\""), "kind");
        assertRefused(text.replaceFirst("\"id\" : \"one\"", "\"id\" : \"" + "i".repeat(1_000_000) + "\""), "letters");
        assertRefused(text.replace("\"kind\" : \"sustained\"", "\"kind\" : \"a\\u001b[2J\\nb\""), "a?[2J?b");
    }

    @Test
    void whatever_a_file_holds_it_is_read_or_refused_in_words() throws Exception {
        SplittableRandom random = new SplittableRandom(7);
        byte[] original = text.getBytes(StandardCharsets.UTF_8);
        for (int round = 0; round < 1_500; round++) {
            byte[] changed = random.nextInt(5) == 0
                    ? Arrays.copyOf(original, random.nextInt(original.length))
                    : original.clone();
            for (int i = 0; i < 1 + random.nextInt(4) && changed.length > 0; i++) {
                int at = random.nextInt(changed.length);
                changed[at] =
                        random.nextBoolean() ? (byte) random.nextInt() : (byte) (changed[at] ^ 1 << random.nextInt(7));
            }
            Files.write(folder.resolve(SessionFolder.SESSION_FILE), changed);
            try {
                SessionFolder.load(folder);
            } catch (SessionFileException e) {
                assertThat(e.getMessage()).doesNotContain("Exception").hasSizeLessThan(1_500);
            }
        }
    }
}
