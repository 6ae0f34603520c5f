package waterwheel.packages;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.List;
import java.util.Map;

/**
 * The application as a folder that runs where it lies: a runtime of the modules that it needs, its launcher, and a cache
 * of what a start and a session's first measurement load and compile.
 *
 * @param place the folder that the application's folder lies in
 */
record Image(Path place, Tools tools) {
    private static final String NAME = "waterwheel";
    /** Native code is called for windows and for sound servers. */
    private static final String NATIVE = "--enable-native-access=javafx.graphics,waterwheel.core";

    /** Links and lays out the application. */
    static Image build(Path modules, Path work, String version, Path icon, Tools tools)
            throws IOException, InterruptedException {
        Path runtime = work.resolve("runtime");
        Tools.remove(runtime);
        tools.jdk(
                "jlink",
                List.of(
                        "--module-path",
                        modules.toString(),
                        "--add-modules",
                        "waterwheel.cli,waterwheel.desktop",
                        "--strip-debug",
                        "--no-header-files",
                        "--no-man-pages",
                        // Packages compress all of it, and a compressed part would stay as large as it is.
                        "--compress",
                        "zip-0",
                        "--output",
                        runtime.toString()));
        Path into = work.resolve("image");
        Tools.remove(into);
        tools.jdk(
                "jpackage",
                List.of(
                        "--type",
                        "app-image",
                        "--name",
                        NAME,
                        "--app-version",
                        version,
                        "--runtime-image",
                        runtime.toString(),
                        "--module",
                        "waterwheel.cli/waterwheel.cli.Main",
                        "--icon",
                        icon.toString(),
                        "--java-options",
                        NATIVE,
                        // Where the cache is missing or does not fit, the start is only slower.
                        "--java-options",
                        "-XX:AOTCache=$APPDIR/waterwheel.aot",
                        "--java-options",
                        "-Xlog:aot=off",
                        "--java-options",
                        "-Xlog:cds=off",
                        // As the launcher of a checkout: a start waits less for the compilers.
                        "--java-options",
                        "-XX:CompileThresholdScaling=8",
                        // The heap begins at what a session needs; it would begin at a 64th of the machine's memory.
                        "--java-options",
                        "-XX:InitialHeapSize=128m",
                        "--java-options",
                        "-Dfile.encoding=UTF-8",
                        "--dest",
                        into.toString()));
        Image image = new Image(into, tools);
        image.startInUtf8();
        image.train(work.resolve("trained"));
        return image;
    }

    Path folder() {
        return place.resolve(NAME);
    }

    /** Where there is room for what comes to be read; a package takes nothing beside the application's own folders. */
    Path documents() {
        return folder().resolve("lib/app/share");
    }

    private Path cache() {
        return folder().resolve("lib/app/waterwheel.aot");
    }

    /** Puts a script before the launcher, which reads its arguments as the locale has it. */
    private void startInUtf8() throws IOException {
        Path bin = folder().resolve("bin");
        Path app = folder().resolve("lib/app");
        Files.move(bin.resolve(NAME), bin.resolve(NAME + "-run"));
        Files.move(app.resolve(NAME + ".cfg"), app.resolve(NAME + "-run.cfg"));
        Tools.copyOwn(NAME + ".sh", bin.resolve(NAME));
        Files.setPosixFilePermissions(bin.resolve(NAME), PosixFilePermissions.fromString("rwxr-xr-x"));
    }

    /** Runs the application once on the demo, so that its classes and their hot methods are known from the start. */
    private void train(Path learned) throws IOException, InterruptedException {
        Tools.remove(learned);
        tools.run(
                List.of(
                        folder().resolve("lib/runtime/bin/java").toString(),
                        "-XX:AOTCacheOutput=" + cache(),
                        NATIVE,
                        "-Dfile.encoding=UTF-8",
                        "-Dwaterwheel.settings=" + learned,
                        "-m",
                        "waterwheel.cli/waterwheel.cli.Main",
                        "demo",
                        learned.resolve("demo").toString(),
                        "--json"),
                Map.of("DISPLAY", "", "WAYLAND_DISPLAY", "", "LC_ALL", "C.UTF-8"));
        if (!Files.exists(cache())) {
            throw new IOException("The training wrote no cache.");
        }
        Tools.remove(learned);
    }

    /** Writes the application as one compressed archive. */
    void archive(Path file) throws IOException, InterruptedException {
        tools.run(
                List.of(
                        "tar",
                        "--sort=name",
                        "--owner=0",
                        "--group=0",
                        "--numeric-owner",
                        "-C",
                        place.toString(),
                        "-czf",
                        file.toString(),
                        NAME),
                Map.of());
    }
}
