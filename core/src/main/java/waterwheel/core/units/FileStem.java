package waterwheel.core.units;

import java.nio.file.Path;

/** A file's name without its ending. */
public final class FileStem {
    private FileStem() {}

    /** The name up to its last dot; all of it where it has none, or begins with the only one. */
    public static String of(Path file) {
        String name = String.valueOf(file.getFileName());
        int dot = name.lastIndexOf('.');
        return dot > 0 ? name.substring(0, dot) : name;
    }
}
