package waterwheel.core.work;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.Objects;

/**
 * A file that is written beside its place under a hidden name of its own and moved there when it is whole, so that
 * nobody finds half a file under its name, and two who write the same file do not meet.
 *
 * @param path where it is written
 */
public record AsideFile(Path target, Path path) {
    /** Writes all of a file. */
    public interface Writing {
        void to(Path path) throws IOException;
    }

    public AsideFile(Path target) {
        // A root has nothing beside it, and nobody can write to it.
        this(
                target,
                Leftovers.name(
                        Objects.requireNonNullElse(target.toAbsolutePath().getParent(), target), "part"));
    }

    /**
     * Writes a whole file.
     *
     * @throws IOException if the disk refuses; nothing is left behind, as after a stop, and a file of the same name is as
     *     it was
     */
    public static void write(Path target, Writing writing) throws IOException {
        AsideFile file = new AsideFile(target);
        try {
            writing.to(file.path());
            file.complete();
        } catch (IOException | RuntimeException e) {
            file.remove();
            throw e;
        }
    }

    /** Gives it its name, replacing one of the same name. */
    public void complete() throws IOException {
        Files.move(path(), target, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
    }

    public void remove() throws IOException {
        Files.deleteIfExists(path());
    }
}
