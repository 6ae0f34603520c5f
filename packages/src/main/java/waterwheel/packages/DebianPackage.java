package waterwheel.packages;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.List;

/**
 * The application as a Debian package: under /opt, with its command, manual page and completion where the system looks
 * for them, an entry in the desktop's menu, and session files that open with it.
 */
final class DebianPackage {
    /** What is laid in place of the defaults of the tool that builds the package. */
    private static final List<String> OWN = List.of("postinst", "prerm", "waterwheel.desktop");

    private final Path work;
    private final Tools tools;

    DebianPackage(Path work, Tools tools) {
        this.work = work;
        this.tools = tools;
    }

    void build(Image image, String version, Path icon, Path license, Path into)
            throws IOException, InterruptedException {
        Path resources = Files.createDirectories(work.resolve("debian"));
        for (String name : OWN) {
            Tools.copyOwn(name, resources.resolve(name));
        }
        Files.copy(icon, resources.resolve("waterwheel.png"), StandardCopyOption.REPLACE_EXISTING);
        tools.jdk(
                "jpackage",
                List.of(
                        "--type",
                        "deb",
                        "--name",
                        "waterwheel",
                        "--app-image",
                        image.folder().toString(),
                        "--app-version",
                        version,
                        "--description",
                        "A multitrack session's signal flow, measured levels and stems",
                        "--license-file",
                        license.toString(),
                        "--linux-shortcut",
                        "--linux-menu-group",
                        "AudioVideo;Audio;",
                        "--linux-app-category",
                        "sound",
                        "--linux-package-deps",
                        "libgtk-3-0, libgl1, libxtst6, xdg-utils, shared-mime-info",
                        "--resource-dir",
                        resources.toString(),
                        "--dest",
                        into.toString()));
    }
}
