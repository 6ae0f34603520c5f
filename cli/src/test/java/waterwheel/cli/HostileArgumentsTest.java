package waterwheel.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assertions.assertTimeoutPreemptively;

import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.ByteArrayOutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.SplittableRandom;
import java.util.concurrent.TimeUnit;
import java.util.regex.Pattern;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.audiofile.WavWriter;

/** Arguments, names, files and folders that are not as one would wish: each is one plain sentence, or right. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class HostileArgumentsTest {
    @TempDir
    Path folder;

    private Path session = Path.of("");
    private final ByteArrayOutputStream out = new ByteArrayOutputStream();
    private final ByteArrayOutputStream err = new ByteArrayOutputStream();

    @BeforeEach
    void a_session_of_two_tracks() throws Exception {
        session = folder.resolve("song");
        assertThat(run("new", session.toString(), tone("one.wav"), tone("two.wav")))
                .isZero();
    }

    private int run(String... args) {
        out.reset();
        err.reset();
        return assertTimeoutPreemptively(
                Duration.ofSeconds(60),
                () -> Main.run(
                        new PrintStream(out, true, StandardCharsets.UTF_8),
                        new PrintStream(err, true, StandardCharsets.UTF_8),
                        args));
    }

    private String err() {
        return err.toString(StandardCharsets.UTF_8);
    }

    private String out() {
        return out.toString(StandardCharsets.UTF_8);
    }

    private String tone(String name) throws Exception {
        float[][] planes = new float[1][24_000];
        for (int i = 0; i < planes[0].length; i++) {
            planes[0][i] = (float) (0.25 * Math.sin(2 * Math.PI * (name.hashCode() % 700 + 1_000) * i / 48_000));
        }
        Path file = folder.resolve(name);
        try (WavWriter writer = WavWriter.create(file, 1, 48_000, SampleEncoding.PCM_24, planes[0].length)) {
            writer.write(planes, 0, planes[0].length);
            writer.finish();
        }
        return file.toString();
    }

    private void inSession(String from, String to) throws Exception {
        Path file = session.resolve("session.json");
        Files.writeString(file, Files.readString(file).replace(from, to));
    }

    @Nested
    class Numbers {
        @ParameterizedTest
        @CsvSource({
            "stems, --mix-headroom", "stems, --mix-loudness", "stems, --stem-peak", "stems, --tail", "mix, --tail",
            "stage, --nominal", "stage, --loudness", "stage, --percussive-peak", "stage, --guard", "measure, --nominal",
        })
        void every_option_that_takes_one_knows_its_range_and_says_it(String command, String option) {
            String target =
                    command.equals("measure") ? folder.resolve("one.wav").toString() : session.toString();
            for (String wrong :
                    List.of("NaN", "Infinity", "-Infinity", "1e9", "100000", "-100000", "0x1p3", "1d", "", "x")) {
                String[] args = command.equals("stems") || command.equals("mix")
                        ? new String[] {
                            command, target, "--out", folder.resolve("o").toString(), option + "=" + wrong
                        }
                        : new String[] {command, target, option + "=" + wrong};
                assertThat(run(args)).as("%s=%s", option, wrong).isEqualTo(2);
                assertThat(err().lines().findFirst().orElseThrow())
                        .as("%s=%s", option, wrong)
                        .contains(option, "from", "to");
            }
            assertThat(folder.resolve("o")).doesNotExist();
            assertThat(run(command, "--help")).isZero();
        }

        @Test
        void a_gain_beyond_what_the_format_holds_is_refused_and_nothing_is_written() {
            Path target = folder.resolve("hot");
            assertThat(run("stems", session.toString(), "--out", target.toString(), "--mix-loudness=6"))
                    .isEqualTo(1);
            assertThat(err()).hasLineCount(1).contains("beyond what WAV 24-bit holds", "32-bit float");
            assertThat(target.resolve("Mix.wav")).doesNotExist();
            assertThat(run("stems", session.toString(), "--out", target.toString(), "--mix-loudness=6", "--format=32f"))
                    .isZero();
        }

        @Test
        void a_mix_says_how_long_it_is_with_its_tail() throws Exception {
            String file = folder.resolve("mix.flac").toString();
            Path renders = Files.createDirectory(folder.resolve("renders"));
            assertThat(run(
                            "mix",
                            session.toString(),
                            "--out",
                            renders.resolve("mix.flac").toString(),
                            "--tail",
                            "1",
                            "--format",
                            "flac16",
                            "--json"))
                    .as(file)
                    .isZero();
            assertThat(new ObjectMapper().readTree(out()).get("frames").longValue())
                    .isEqualTo(24_000 + 48_000);
        }
    }

    @Nested
    class Targets {
        private String before = "";

        private void assertRefused(Path target, String... words) throws Exception {
            assertThat(run("mix", session.toString(), "--out", target.toString(), "--overwrite"))
                    .as("%s: %s", target, out())
                    .isEqualTo(1);
            assertThat(err()).hasLineCount(1).contains(words);
        }

        @Test
        void a_render_never_replaces_what_belongs_to_a_session() throws Exception {
            before = Files.readString(session.resolve("session.json"));
            Path source = session.resolve("audio/one.wav");
            byte[] audio = Files.readAllBytes(source);
            assertRefused(session.resolve("session.json"), "belongs to a session");
            assertRefused(source, "one.wav");
            assertRefused(session.resolve("audio/new.wav"), "reads its files from");
            Path link = Files.createLink(folder.resolve("hard.wav"), source);
            assertRefused(link, "belongs to a session");
            Path symbolic = Files.createSymbolicLink(folder.resolve("soft.wav"), source);
            assertRefused(symbolic, "is not a plain file");
            Path way = Files.createSymbolicLink(folder.resolve("way"), session.resolve("audio"));
            assertRefused(way.resolve("new.wav"), "reads its files from");
            for (String dir : List.of("audio", "earlier", "cache")) {
                assertThat(run(
                                "stems",
                                session.toString(),
                                "--out",
                                session.resolve(dir).toString(),
                                "--overwrite"))
                        .isEqualTo(1);
                assertThat(err()).hasLineCount(1).contains("reads its files from");
            }
            assertThat(Files.readString(session.resolve("session.json"))).isEqualTo(before);
            assertThat(source).hasBinaryContent(audio);
        }

        @Test
        void nor_what_is_no_plain_file() throws Exception {
            Path pipe = pipe("pipe.wav");
            assertRefused(pipe, "is not a plain file");
            assertThat(Files.isRegularFile(pipe)).isFalse();
            assertRefused(Path.of("/dev/null"), "is not a plain file");
            assertRefused(Path.of("/"), "is not a plain file");
            assertRefused(Files.createDirectory(folder.resolve("dir.wav")), "is not a plain file");
            assertThat(run("stems", session.toString(), "--out", pipe.toString()))
                    .isEqualTo(1);
            assertThat(err()).hasLineCount(1).contains("is not a folder");
        }

        @ParameterizedTest
        @ValueSource(strings = {"24", "32f", "flac24"})
        void a_plain_file_is_replaced_where_it_was_rendered_here_or_that_is_asked_for(String format) throws Exception {
            Path target = Files.createDirectory(folder.resolve("out")).resolve("mix.audio");
            Files.writeString(target, "a letter");
            String[] mix = {"mix", session.toString(), "--out", target.toString(), "--format", format};
            assertThat(run(mix)).isEqualTo(1);
            assertThat(err()).hasLineCount(1).contains("was not rendered by Waterwheel", "--overwrite");
            assertThat(target).hasContent("a letter");
            assertThat(run("mix", session.toString(), "--out", target.toString(), "--format", format, "--overwrite"))
                    .isZero();
            assertThat(run(mix)).as("its own").isZero();
            // A recording bears no mark.
            Files.copy(folder.resolve("one.wav"), target, StandardCopyOption.REPLACE_EXISTING);
            assertThat(run(mix)).isEqualTo(1);
        }

        @Test
        void stems_replace_their_own_and_sweep_what_the_session_has_no_more() throws Exception {
            Path target = folder.resolve("stems");
            String[] stems = {"stems", session.toString(), "--out", target.toString()};
            assertThat(run(stems)).isZero();
            Path gone = target.resolve("02 two.wav");
            assertThat(gone).exists();
            inSession("\"name\" : \"two\"", "\"name\" : \"zwei\"");
            assertThat(run(stems)).isZero();
            assertThat(out()).contains("Removed what the session has no more: 02 two.wav");
            assertThat(gone).doesNotExist();
            assertThat(target.resolve("02 zwei.wav")).exists();
            Files.writeString(target.resolve("stems.html"), "a letter");
            Files.delete(target.resolve("stems.json"));
            assertThat(run(stems)).isEqualTo(1);
            assertThat(target.resolve("stems.html")).hasContent("a letter");
        }
    }

    private Path pipe(String name) throws Exception {
        Path pipe = folder.resolve(name);
        assertThat(new ProcessBuilder("mkfifo", pipe.toString()).start().waitFor())
                .isZero();
        return pipe;
    }

    @Nested
    class Files_and_names {
        @Test
        void a_pipe_is_refused_before_it_is_opened() throws Exception {
            String pipe = pipe("in.wav").toString();
            assertThat(run("new", folder.resolve("other").toString(), pipe)).isEqualTo(1);
            assertThat(err()).hasLineCount(1).contains("in.wav is not a file");
            assertThat(run("measure", pipe, folder.toString(), "/dev/zero")).isEqualTo(1);
            assertThat(err()).hasLineCount(3);
        }

        @Test
        void a_line_that_is_no_path_does_not_lose_the_list() throws Exception {
            Path list =
                    Files.writeString(folder.resolve("list.txt"), "no\0path.wav\n" + folder.resolve("one.wav") + "\n");
            assertThat(run("measure", "--list", list.toString(), "--json")).isEqualTo(1);
            var files = new ObjectMapper().readTree(out()).get("files");
            assertThat(files.get(0).get("ok").booleanValue()).isFalse();
            assertThat(files.get(1).get("ok").booleanValue()).isTrue();
            assertThat(err()).hasLineCount(1).contains("is no path");
        }

        @ParameterizedTest
        @ValueSource(ints = {120, 245, 1_000})
        void tracks_with_endless_names_get_stems(int length) throws Exception {
            inSession("\"name\" : \"one\"", "\"name\" : \"" + "n".repeat(length) + "\"");
            inSession("\"name\" : \"two\"", "\"name\" : \"" + "\uD83E\uDD41".repeat(length) + "\"");
            Path target = folder.resolve("long");
            assertThat(run("stems", session.toString(), "--out", target.toString(), "--json"))
                    .as(err())
                    .isZero();
            for (var file : new ObjectMapper().readTree(out()).get("files")) {
                String name = file.get("path").textValue();
                assertThat(target.resolve(name)).exists();
                assertThat(name.getBytes(StandardCharsets.UTF_8).length).isLessThan(256);
                assertThat(new String(name.getBytes(StandardCharsets.UTF_8), StandardCharsets.UTF_8))
                        .isEqualTo(name);
            }
        }

        @Test
        void nothing_in_a_name_steers_the_terminal() throws Exception {
            inSession("\"name\" : \"one\"", "\"name\" : \"a\\u001b[2Jb\\u0007\\u009bc\\u202e\\nd\"");
            for (String[] command : List.of(
                    new String[] {"levels", session.toString()},
                    new String[] {"stage", session.toString()},
                    new String[] {"check", session.toString()},
                    new String[] {"stage", session.toString(), "--track", "\u001b[31mred"},
                    new String[] {"levels", session.toString(), "--section", "\u001b[31mred"},
                    new String[] {"levels", folder.resolve("\u001b[31m").toString()},
                    new String[] {"\u001b[31mred"})) {
                run(command);
                assertThat(out() + err())
                        .as(String.join(" ", command))
                        .doesNotContain("\u001b", "\u0007", "\u009b", "\u202e");
            }
        }

        @Test
        void messages_are_of_bounded_length() throws Exception {
            inSession("\"trimDb\" : 0.0", "\"trimDb\" : \"" + "x".repeat(1_000_000) + "\"");
            assertThat(run("levels", session.toString())).isEqualTo(1);
            assertThat(err()).hasSizeLessThan(2_000).contains("trimDb");
            assertThat(run("y".repeat(100_000))).isEqualTo(2);
            assertThat(err().lines().findFirst().orElseThrow()).hasSizeLessThan(2_100);
        }
    }

    @Nested
    class Missing_words {
        @Test
        void files_that_cannot_be_played_are_told_of_and_left_alone() throws Exception {
            Files.delete(session.resolve("audio/one.wav"));
            assertThat(run("levels", session.toString(), "--json")).isEqualTo(1);
            assertThat(err()).contains("one.wav does not exist");
            new ObjectMapper().readTree(out());
            byte[] cut = Files.readAllBytes(session.resolve("audio/two.wav"));
            Files.write(session.resolve("audio/two.wav"), Arrays.copyOf(cut, cut.length / 2));
            assertThat(run("stage", session.toString(), "--apply", "--json")).isEqualTo(1);
            assertThat(err()).contains("one.wav does not exist", "two.wav is not the file");
            assertThat(new ObjectMapper().readTree(out()).get("proposals")).isEmpty();
            assertThat(Files.readString(session.resolve("session.json")))
                    .doesNotContain("\"trimDb\" : -", "\"trimDb\" : 1");
        }

        @Test
        void a_rate_that_is_not_the_sessions_is_no_silence_without_a_word() throws Exception {
            inSession("\"sampleRateHz\" : 48000,\n  \"panLaw\"", "\"sampleRateHz\" : 44100,\n  \"panLaw\"");
            assertThat(run("levels", session.toString())).isEqualTo(1);
            assertThat(err()).contains("one.wav runs at 48000 Hz, but the session at 44100 Hz");
            assertThat(run("check", session.toString())).isEqualTo(1);
            assertThat(out()).contains("48000 Hz");
            assertThat(run(
                            "mix",
                            session.toString(),
                            "--out",
                            folder.resolve("r").resolve("m.wav").toString()))
                    .isEqualTo(1);
        }

        @Test
        void other_audio_of_the_same_name_and_length_is_told_of() throws Exception {
            Path file = session.resolve("audio/one.wav");
            Files.setLastModifiedTime(file, FileTime.fromMillis(1_600_000_000_000L));
            assertThat(run("check", session.toString())).as("copied").isZero();
            Files.copy(Path.of(tone("three.wav")), file, StandardCopyOption.REPLACE_EXISTING);
            assertThat(run("check", session.toString())).isEqualTo(1);
            assertThat(out()).contains("holds other audio than when the session was made");
            assertThat(run("levels", session.toString())).isZero();
            assertThat(err()).contains("one.wav holds other audio");
        }
    }

    /** What only a process of its own shows. */
    @Nested
    @Tag("process") // started from the class path
    class Processes {
        private Process start(boolean plainLocale, String... args) throws Exception {
            List<String> command = new ArrayList<>(List.of(
                    Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                    "-cp",
                    System.getProperty("java.class.path"),
                    Main.class.getName()));
            command.addAll(List.of(args));
            ProcessBuilder builder = new ProcessBuilder(command);
            if (plainLocale) {
                builder.environment().put("LC_ALL", "C");
            }
            return builder.redirectOutput(folder.resolve("printed").toFile())
                    .redirectErrorStream(true)
                    .start();
        }

        @Test
        void a_name_that_the_locale_cannot_write_gets_a_file_all_the_same() throws Exception {
            inSession("\"name\" : \"one\"", "\"name\" : \"\u00dcber \u6c34\"");
            Path target = folder.resolve("plain");
            Process stems = start(true, "stems", session.toString(), "--out", target.toString());
            assertThat(stems.waitFor(60, TimeUnit.SECONDS)).isTrue();
            assertThat(stems.exitValue())
                    .as(Files.readString(folder.resolve("printed")))
                    .isZero();
            assertThat(target.resolve("stems.json")).exists();
        }

        @Test
        void two_who_save_at_once_lose_nothing() throws Exception {
            for (int round = 0; round < 3; round++) {
                Process one = start(
                        false, "stage", session.toString(), "--track", "one", "--nominal", "-2" + round, "--apply");
                Process two = start(
                        false, "stage", session.toString(), "--track", "two", "--nominal", "-2" + round, "--apply");
                assertThat(one.waitFor(60, TimeUnit.SECONDS) && two.waitFor(60, TimeUnit.SECONDS))
                        .isTrue();
                assertThat(one.exitValue() + two.exitValue()).isZero();
                // A sine of -12.04 dBFS is brought to the nominal level.
                String trim = "\"trimDb\" : " + String.format(Locale.ROOT, "%.1f", -20 - round + 12.0);
                assertThat(Files.readString(session.resolve("session.json")).split(Pattern.quote(trim), -1))
                        .as(trim)
                        .hasSize(3);
            }
        }

        /** Whenever a render is killed: files old or new as a whole, or a manifest that says otherwise, and nothing left. */
        @Test
        void killed_renders_leave_the_truth_and_nothing_for_ever() throws Exception {
            Path target = folder.resolve("killed");
            assertThat(run("stems", session.toString(), "--out", target.toString()))
                    .isZero();
            SplittableRandom random = new SplittableRandom(21);
            for (int round = 0; round < 6; round++) {
                inSession(
                        round == 0 ? "\"faderDb\" : 0.0" : "\"faderDb\" : -" + round + ".0",
                        "\"faderDb\" : -" + (round + 1) + ".0");
                Process stems = start(false, "stems", session.toString(), "--out", target.toString());
                stems.waitFor(300 + random.nextInt(900), TimeUnit.MILLISECONDS);
                stems.destroyForcibly().waitFor();
                var manifest = new ObjectMapper().readTree(Files.readString(target.resolve("stems.json")));
                if (manifest.get("complete").booleanValue()) {
                    for (var file : manifest.get("files")) {
                        assertThat(target.resolve(file.get("path").textValue())).exists();
                    }
                }
            }
            Process made = start(
                    false,
                    "new",
                    folder.resolve("other").toString(),
                    folder.resolve("one.wav").toString());
            made.waitFor(350, TimeUnit.MILLISECONDS);
            made.destroyForcibly().waitFor();
            assertThat(run("stems", session.toString(), "--out", target.toString()))
                    .isZero();
            assertThat(hidden(target)).isEmpty();
            if (!Files.exists(folder.resolve("other/session.json"))) {
                assertThat(run(
                                "new",
                                folder.resolve("other").toString(),
                                folder.resolve("two.wav").toString()))
                        .isZero();
                assertThat(folder.resolve("other/audio/one.wav")).doesNotExist();
            }
            assertThat(hidden(folder.resolve("other"))).isEmpty();
        }

        private List<Path> hidden(Path place) throws Exception {
            try (var files = Files.walk(place)) {
                return files.filter(file -> file.getFileName().toString().startsWith(".ww-"))
                        .toList();
            }
        }
    }
}
