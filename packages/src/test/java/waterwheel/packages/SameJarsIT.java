package waterwheel.packages;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Whoever builds the same source with the same tools gets the same jars, so that what is handed out can be compared with
 * its source.
 */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class SameJarsIT {
    private static final Path PROJECT = Path.of("..");
    private static final Path MAVEN = Path.of(System.getProperty("waterwheel.maven", "/usr/share/maven"));
    private static final List<String> MODULES = List.of("core", "cli", "desktop");

    @TempDir
    Path elsewhere;

    private void copy(String name) throws IOException {
        try (Stream<Path> files = Files.walk(PROJECT.resolve(name))) {
            for (Path file : files.filter(Files::isRegularFile).toList()) {
                Path to = elsewhere.resolve(PROJECT.relativize(file).toString());
                Files.createDirectories(to.getParent());
                Files.copy(file, to);
            }
        }
    }

    @Test
    void built_again_elsewhere_they_have_the_same_bytes() throws Exception {
        for (String name : List.of("pom.xml", "build", "bench/pom.xml", "docs")) {
            copy(name);
        }
        for (String module : MODULES) {
            copy(module + "/pom.xml");
            copy(module + "/src/main");
        }
        Path said = elsewhere.resolve("said.txt");
        ProcessBuilder maven = new ProcessBuilder(
                        MAVEN.resolve("bin/mvn").toString(),
                        "-B",
                        "-o",
                        "-q",
                        "-Dmaven.test.skip=true",
                        "-Dformat.skip=true",
                        "-pl",
                        String.join(",", MODULES),
                        "package")
                .directory(elsewhere.toFile())
                .redirectErrorStream(true)
                .redirectOutput(said.toFile());
        maven.environment().put("JAVA_HOME", System.getProperty("waterwheel.maven.java", ""));
        Process build = maven.start();
        assertThat(build.waitFor(10, TimeUnit.MINUTES)).isTrue();
        assertThat(build.exitValue()).as(Files.readString(said)).isZero();
        for (String module : MODULES) {
            String jar = module + "/target/waterwheel-" + module + ".jar";
            assertThat(elsewhere.resolve(jar)).hasSameBinaryContentAs(PROJECT.resolve(jar));
        }
    }
}
