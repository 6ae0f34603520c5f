package waterwheel.packages;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.stream.Stream;

/** Builds the packages, step by step, and says how large they are. */
public final class Packager {
    private Packager() {}

    /**
     * Runs the build.
     *
     * @param arguments the version; the project's folder; the build's folder, with the {@code modules} and the
     *     {@code notices} in it; where the packages go
     */
    public static void main(String[] arguments) throws IOException, InterruptedException {
        String version = arguments[0];
        Path project = Path.of(arguments[1]).toRealPath();
        Path build = Path.of(arguments[2]);
        Path packages = Path.of(arguments[3]);
        Path work = Files.createDirectories(build.resolve("work"));
        Tools tools = new Tools(work.resolve("last.log"));
        Tools.remove(packages);
        Files.createDirectories(packages);

        say("Naming libraries");
        new NamedModules(build.resolve("modules"), work, tools).nameAll();
        say("Linking the application and training its start");
        Path icon = work.resolve("waterwheel.png");
        Icon.write(icon, 256);
        Image image = Image.build(build.resolve("modules"), work, version, icon, tools);
        addDocuments(image, version, project, build.resolve("notices/libraries.txt"));
        say("Packing");
        image.archive(packages.resolve("waterwheel-" + version + ".tar.gz"));
        new DebianPackage(work, tools).build(image, version, icon, project.resolve("LICENSE"), packages);
        try (Stream<Path> built = Files.list(packages)) {
            for (Path file : built.sorted().toList()) {
                say(String.format("%s: %.1f MB", file.getFileName(), Files.size(file) / 1e6));
            }
        }
    }

    /** What comes with the application to be read: by people, by the shell, and by the desktop. */
    private static void addDocuments(Image image, String version, Path project, Path libraries) throws IOException {
        Path share = Files.createDirectories(image.documents());
        Manual manual = new Manual();
        manual.page(share.resolve("man/man1/waterwheel.1"), version);
        manual.completion(share.resolve("bash-completion/completions/waterwheel"));
        Tools.copyOwn("waterwheel-mime.xml", share.resolve("mime/waterwheel-mime.xml"));
        Files.copy(project.resolve("LICENSE"), share.resolve("LICENSE"));
        Files.writeString(share.resolve("NOTICES.md"), Notices.text(Files.readAllLines(libraries)));
        Files.copy(project.resolve("README.md"), share.resolve("README.md"));
    }

    private static void say(String what) {
        System.out.println(what);
    }
}
