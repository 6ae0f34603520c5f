import com.palantir.javaformat.java.Formatter;
import com.palantir.javaformat.java.JavaFormatterOptions;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.stream.Stream;

/**
 * Checks or applies the source format of every module: {@code Format check ROOT} fails and names the files that
 * differ, {@code Format apply ROOT} rewrites them. Lines are at most 120 columns, imports sorted, unused ones removed.
 */
final class Format {
    public static void main(String[] args) throws Exception {
        boolean apply = args[0].equals("apply");
        Path root = Path.of(args[1]);
        List<Path> sources = new ArrayList<>();
        try (Stream<Path> modules = Files.list(root)) {
            for (Path module : modules.filter(m -> Files.isDirectory(m.resolve("src"))).sorted().toList()) {
                try (Stream<Path> files = Files.walk(module.resolve("src"))) {
                    files.filter(f -> f.toString().endsWith(".java")).sorted().forEach(sources::add);
                }
            }
        }
        Formatter formatter = Formatter.createFormatter(JavaFormatterOptions.builder()
                .style(JavaFormatterOptions.Style.PALANTIR)
                .build());
        ConcurrentLinkedQueue<String> differing = new ConcurrentLinkedQueue<>();
        sources.parallelStream().forEach(file -> {
            try {
                String before = Files.readString(file);
                String after = formatter.formatSourceAndFixImports(before);
                if (!after.equals(before)) {
                    differing.add(root.relativize(file).toString());
                    if (apply) {
                        Files.writeString(file, after);
                    }
                }
            } catch (Exception e) {
                throw new IllegalStateException(file + ": " + e.getMessage(), e);
            }
        });
        differing.stream().sorted().forEach(name -> System.out.println((apply ? "formatted " : "not formatted: ") + name));
        if (!apply && !differing.isEmpty()) {
            System.out.println("Run 'mvn -B -N validate exec:exec@format' to format them.");
            System.exit(1);
        }
    }
}
