package waterwheel.packages;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;

/** Runs programs, each with its output in a log file that is shown where the program fails. */
final class Tools {
    private static final int MOST_MINUTES = 5;

    private final Path log;

    Tools(Path log) {
        this.log = log;
    }

    /** Runs a tool of the JDK that this runs on, such as {@code jlink}. */
    void jdk(String tool, List<String> arguments) throws IOException, InterruptedException {
        List<String> command = new ArrayList<>(
                List.of(Path.of(System.getProperty("java.home"), "bin", tool).toString()));
        command.addAll(arguments);
        run(command, Map.of());
    }

    /**
     * Runs a program to its end.
     *
     * @param environment set beside what is set here
     * @throws IOException if it fails, with the end of what it said
     */
    void run(List<String> command, Map<String, String> environment) throws IOException, InterruptedException {
        ProcessBuilder builder =
                new ProcessBuilder(command).redirectErrorStream(true).redirectOutput(log.toFile());
        builder.environment().putAll(environment);
        Process process = builder.start();
        boolean ended = process.waitFor(MOST_MINUTES, TimeUnit.MINUTES);
        if (!ended) {
            process.destroyForcibly();
        }
        if (!ended || process.exitValue() != 0) {
            List<String> said = Files.readAllLines(log);
            throw new IOException(String.join(" ", command)
                    + (ended ? " failed with status " + process.exitValue() : " did not end") + ":\n"
                    + String.join("\n", said.subList(Math.max(0, said.size() - 30), said.size())));
        }
    }

    /** Removes a folder with all in it, if it is there. */
    static void remove(Path folder) throws IOException {
        if (Files.exists(folder)) {
            try (Stream<Path> all = Files.walk(folder)) {
                for (Path path : all.sorted(Comparator.reverseOrder()).toList()) {
                    Files.delete(path);
                }
            }
        }
    }

    /** Copies one of the files that belong to this program, replacing one that is there. */
    static void copyOwn(String name, Path to) throws IOException {
        try (InputStream in = Tools.class.getResourceAsStream(name)) {
            Files.createDirectories(to.resolveSibling(""));
            Files.copy(Objects.requireNonNull(in, name), to, StandardCopyOption.REPLACE_EXISTING);
        }
    }
}
