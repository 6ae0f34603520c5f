package waterwheel.core.work;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;

/**
 * A file that is written beside its place under a hidden name and moved there when it is whole, so that nobody finds
 * half a file under its name.
 */
public record AsideFile(Path target) {
    /** Writes all of a file. */
    public interface Writing {
        void to(Path path) throws IOException;
    }

    /**
     * Writes a whole file.
     *
     * @throws IOException if the disk refuses; nothing is left behind, and a file of the same name is as it was
     */
    public static void write(Path target, Writing writing) throws IOException {
        AsideFile file = new AsideFile(target);
        try {
            writing.to(file.path());
            file.complete();
        } catch (IOException e) {
            file.remove();
            throw e;
        }
    }

    /** Where it is written. */
    public Path path() {
        return target.resolveSibling("." + target.getFileName() + ".part");
    }

    /** Gives it its name, replacing one of the same name. */
    public void complete() throws IOException {
        Files.move(path(), target, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
    }

    public void remove() throws IOException {
        Files.deleteIfExists(path());
    }
}
