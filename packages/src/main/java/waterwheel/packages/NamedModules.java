package waterwheel.packages;

import java.io.IOException;
import java.lang.module.ModuleDescriptor;
import java.lang.module.ModuleFinder;
import java.lang.module.ModuleReference;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;

/**
 * Makes named modules of libraries that have only a file name or a manifest entry to be known by: a runtime image takes
 * no others. What a library needs and offers is found out from its classes.
 */
final class NamedModules {
    private final Path modules;
    private final Path work;
    private final Tools tools;

    NamedModules(Path modules, Path work, Tools tools) {
        this.modules = modules;
        this.work = work;
        this.tools = tools;
    }

    /** Names all that have no descriptor. */
    void nameAll() throws IOException, InterruptedException {
        dropEmpty();
        for (ModuleReference one : unnamed()) {
            name(one);
        }
        if (!unnamed().isEmpty()) {
            throw new IOException("Libraries that could not be made named modules: " + unnamed() + ".");
        }
    }

    /** JavaFX comes twice: empty, and with the platform in its name. */
    private void dropEmpty() throws IOException {
        List<Path> jars = jars();
        for (Path jar : jars) {
            String stem = jar.getFileName().toString().replace(".jar", "");
            boolean stands = jars.stream()
                    .anyMatch(other -> other.getFileName().toString().startsWith(stem + "-"));
            if (stem.startsWith("javafx-") && stands) {
                Files.delete(jar);
            }
        }
    }

    private List<Path> jars() throws IOException {
        try (Stream<Path> files = Files.list(modules)) {
            return files.filter(file -> file.toString().endsWith(".jar"))
                    .sorted()
                    .toList();
        }
    }

    private List<ModuleReference> unnamed() {
        return ModuleFinder.of(modules).findAll().stream()
                .filter(one -> one.descriptor().isAutomatic())
                .toList();
    }

    private void name(ModuleReference reference) throws IOException, InterruptedException {
        ModuleDescriptor descriptor = reference.descriptor();
        String name = descriptor.name();
        Path jar = Path.of(reference.location().orElseThrow());
        Path described = work.resolve("described");
        Path classes = work.resolve("classes").resolve(name);
        tools.jdk(
                "jdeps",
                List.of(
                        "--module-path",
                        modules.toString(),
                        "--multi-release",
                        "25",
                        "--ignore-missing-deps",
                        "--generate-module-info",
                        described.toString(),
                        jar.toString()));
        List<String> compile = new ArrayList<>(
                List.of("-nowarn", "--module-path", modules.toString(), "--patch-module", name + "=" + jar, "-d"));
        compile.add(classes.toString());
        compile.add(source(described.resolve(name)).toString());
        tools.jdk("javac", compile);
        tools.jdk("jar", List.of("--update", "--file", jar.toString(), "-C", classes.toString(), "module-info.class"));
    }

    /** Where the descriptor was written: in a folder of a release where the library has several. */
    private static Path source(Path described) throws IOException {
        try (Stream<Path> files = Files.walk(described)) {
            return files.filter(file -> file.endsWith("module-info.java"))
                    .findFirst()
                    .orElseThrow(() -> new IOException("No descriptor was written to " + described + "."));
        }
    }
}
