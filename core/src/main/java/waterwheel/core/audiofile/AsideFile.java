package waterwheel.core.audiofile;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import waterwheel.core.errors.AudioFileException;

/** A file that is written beside its place under a hidden name and moved there when it is whole. */
record AsideFile(Path target) {
    /** Where it is written. */
    Path path() {
        return target.resolveSibling("." + target.getFileName() + ".part");
    }

    /** Gives it its name, replacing one of the same name. */
    void complete() throws IOException {
        Files.move(path(), target, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
    }

    void remove() throws IOException {
        Files.deleteIfExists(path());
    }

    AudioFileException failure(IOException e) {
        return new AudioFileException(
                target,
                "cannot be written: " + e.getMessage() + ".",
                "Check the folder's rights and the space on the disk.",
                e);
    }
}
