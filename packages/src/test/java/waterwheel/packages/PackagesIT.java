package waterwheel.packages;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assumptions.assumeThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The packages as somebody has them who downloaded them: unpacked elsewhere, on a machine without any JDK. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class PackagesIT {
    private static final Path PACKAGES = Path.of(System.getProperty("waterwheel.packages", "target/packages"));

    @TempDir
    static Path elsewhere;

    private static Path archived() {
        return elsewhere.resolve("here/waterwheel");
    }

    private static Path installed() {
        return elsewhere.resolve("system/opt/waterwheel");
    }

    private record Said(int status, String text) {}

    /** Runs a program with nothing but the system's own folders on its path. */
    private static Said run(Map<String, String> more, String... command) throws IOException, InterruptedException {
        Path said = Files.createTempFile(elsewhere, "said", ".txt");
        ProcessBuilder builder =
                new ProcessBuilder(command).redirectErrorStream(true).redirectOutput(said.toFile());
        builder.environment().clear();
        builder.environment().putAll(Map.of("PATH", elsewhere.resolve("bin").toString(), "HOME", elsewhere.toString()));
        builder.environment().putAll(more);
        Process process = builder.start();
        assertThat(process.waitFor(240, TimeUnit.SECONDS))
                .as(String.join(" ", command))
                .isTrue();
        return new Said(process.exitValue(), Files.readString(said));
    }

    private static Path only(String ending) throws IOException {
        try (Stream<Path> files = Files.list(PACKAGES)) {
            List<Path> found = files.filter(f -> f.toString().endsWith(ending)).toList();
            assertThat(found).hasSize(1);
            return found.getFirst();
        }
    }

    @BeforeAll
    static void unpack() throws Exception {
        Map<String, String> system = Map.of("PATH", "/usr/bin:/bin:/usr/sbin:/sbin");
        Path here = Files.createDirectories(elsewhere.resolve("here"));
        // All that the start needs of the system; above all, no Java.
        Path bin = Files.createDirectories(elsewhere.resolve("bin"));
        for (String needed : List.of("locale", "readlink")) {
            Files.createSymbolicLink(bin.resolve(needed), Path.of("/usr/bin", needed));
        }
        assertThat(run(system, "tar", "-xzf", only(".tar.gz").toString(), "-C", here.toString()))
                .isEqualTo(new Said(0, ""));
        assertThat(run(
                        system,
                        "dpkg-deb",
                        "-x",
                        only(".deb").toString(),
                        elsewhere.resolve("system").toString()))
                .isEqualTo(new Said(0, ""));
    }

    @Test
    void both_run_where_they_were_unpacked() throws Exception {
        for (Path folder : List.of(archived(), installed())) {
            Said said = run(Map.of(), folder.resolve("bin/waterwheel").toString(), "--version");
            assertThat(said).isEqualTo(new Said(0, "Waterwheel 0.1.0\n"));
        }
    }

    @Test
    void the_demo_opens_draws_and_measures_without_display_or_jdk() throws Exception {
        Path session = elsewhere.resolve("Mühle/demo");
        String launcher = archived().resolve("bin/waterwheel").toString();
        Said opened = run(Map.of(), launcher, "demo", session.toString());
        assertThat(opened.status()).as(opened.text()).isZero();
        assertThat(session.resolve("pictures")).isNotEmptyDirectory();
        Said mixed =
                run(Map.of(), launcher, "mix", session.toString(), "--out", elsewhere + "/mix.wav", "--format", "32f");
        assertThat(mixed.status()).as(mixed.text()).isZero();
        assertThat(elsewhere.resolve("mix.wav")).isNotEmptyFile();
    }

    @Test
    void the_cache_is_used_after_the_folder_moved() throws Exception {
        // The launcher's own options, and that a cache which does not fit is an error.
        List<String> options = new ArrayList<>();
        try (Stream<String> lines = Files.lines(archived().resolve("lib/app/waterwheel-run.cfg"))) {
            lines.filter(line -> line.startsWith("java-options=") && !line.contains("Xlog"))
                    .map(line -> line.substring("java-options=".length())
                            .replace("$APPDIR", archived().resolve("lib/app").toString()))
                    .forEach(options::add);
        }
        List<String> command = new ArrayList<>(
                List.of(archived().resolve("lib/runtime/bin/java").toString(), "-XX:AOTMode=on"));
        command.addAll(options);
        command.addAll(List.of("-m", "waterwheel.cli/waterwheel.cli.Main", "--version"));
        assertThat(run(Map.of(), command.toArray(String[]::new))).isEqualTo(new Said(0, "Waterwheel 0.1.0\n"));
    }

    /** Where the system has a display server without a display: the real window, as somebody sees it. */
    @Test
    void a_window_opens_on_the_session_that_a_file_manager_hands_over() throws Exception {
        assumeThat(Path.of("/usr/bin/Xvfb")).exists();
        String launcher = archived().resolve("bin/waterwheel").toString();
        Path session = elsewhere.resolve("windowed");
        assertThat(run(Map.of(), launcher, "demo", session.toString()).status()).isZero();
        Process display = new ProcessBuilder("/usr/bin/Xvfb", ":87", "-screen", "0", "1280x800x24").start();
        try {
            ProcessBuilder builder = new ProcessBuilder(
                            launcher, "open", session.resolve("session.json").toString())
                    .redirectErrorStream(true)
                    .redirectOutput(elsewhere.resolve("window.txt").toFile());
            builder.environment().put("DISPLAY", ":87");
            Process window = builder.start();
            // A window stays until it is closed; what cannot open one ends by itself.
            assertThat(window.waitFor(20, TimeUnit.SECONDS)).isFalse();
            window.destroy();
            assertThat(window.waitFor(20, TimeUnit.SECONDS)).isTrue();
            assertThat(Files.readString(elsewhere.resolve("window.txt"))).isEmpty();
        } finally {
            display.destroy();
        }
    }

    @Test
    void what_comes_to_be_read_is_there_and_whole() throws Exception {
        Path share = installed().resolve("lib/app/share");
        assertThat(Files.readString(share.resolve("man/man1/waterwheel.1")))
                .contains(".SS stems", "\\-\\-mix\\-headroom")
                .doesNotContain("null");
        String notices = Files.readString(share.resolve("NOTICES.md"));
        try (Stream<Path> modules = Files.list(PACKAGES.resolveSibling("modules"))) {
            modules.map(jar -> jar.getFileName().toString().replaceAll("-[0-9].*", ""))
                    .filter(name -> !name.startsWith("waterwheel"))
                    .forEach(name -> assertThat(notices).contains("| " + name + " | "));
        }
        assertThat(notices).doesNotContain("Unknown");
        assertThat(Path.of("../docs/notices.md"))
                .as("is read without a package too")
                .hasContent(notices);
        assertThat(share.resolve("bash-completion/completions/waterwheel")).isNotEmptyFile();
    }
}
