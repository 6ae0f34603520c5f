package waterwheel.core.store;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Objects;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.json.Json;
import waterwheel.core.order.RunningOrder;
import waterwheel.core.order.Song;
import waterwheel.core.units.FileStem;
import waterwheel.core.work.Leftovers;

/**
 * Reads and writes the file of a running order. Beside it, in a folder of its name, lies what can be made again: figures
 * of songs and the parts of sessions; and its earlier saves.
 */
public final class OrderFile {
    private static final String ENDING = ".json";
    private static final String EARLIER = "earlier";

    private OrderFile() {}

    /**
     * A running order as it was read.
     *
     * @param unknownFields places in the file that this version does not know; they are not kept when saving
     * @param digest of the file's bytes, which tells it from what somebody else saves
     */
    public record Loaded(RunningOrder order, List<String> unknownFields, String digest) {
        public Loaded {
            unknownFields = List.copyOf(unknownFields);
        }
    }

    /** The folder that its songs' relative paths start from. */
    public static Path folder(Path file) {
        return Objects.requireNonNull(file.toAbsolutePath().normalize().getParent(), "a file's folder");
    }

    /** The folder of what can be made again. */
    public static Path working(Path file) {
        return folder(file).resolve(FileStem.of(file) + "-working");
    }

    private static DocumentFile document(Path file) {
        return new DocumentFile(file, working(file).resolve(EARLIER));
    }

    /**
     * Reads a running order.
     *
     * @throws SessionFileException if there is none, or if its file is damaged, newer than this version, or says
     *     something that cannot be
     */
    public static Loaded load(Path file) throws SessionFileException {
        if (!Files.isRegularFile(file)) {
            throw new SessionFileException(
                    file + " is not the file of a running order.",
                    "Choose one that Waterwheel made, or make a new one.");
        }
        return document(file).read((node, digest) -> {
            OrderJson.Read read = OrderJson.read(node);
            return new Loaded(read.order(), read.unknownFields(), digest);
        });
    }

    /** Whether the file is no longer the one that was read; false where there is none any more. */
    public static boolean changedSince(Path file, Loaded read) throws SessionFileException {
        return document(file).changedSince(read.digest());
    }

    /**
     * Begins a running order.
     *
     * @throws SessionFileException if there is such a file already, its name is none of a JSON file, or the disk refuses
     */
    public static void create(RunningOrder order, Path file) throws SessionFileException {
        if (!String.valueOf(file.getFileName()).endsWith(ENDING)) {
            throw new SessionFileException(
                    file + " does not end in " + ENDING + ".", "Name it so, such as order" + ENDING + ".");
        }
        if (Files.exists(file)) {
            throw new SessionFileException(file + " is there already.", "Choose another name, or open it.");
        }
        save(order, file);
    }

    /**
     * Saves a running order: writes it aside, forces it to disk, keeps the save before, and moves the new file over the
     * old one in one step.
     *
     * @throws SessionFileException if the disk refuses; the earlier save is untouched then
     */
    public static void save(RunningOrder order, Path file) throws SessionFileException {
        try {
            Files.createDirectories(folder(file));
            Leftovers.sweep(folder(file));
            document(file).write(Json.pretty(OrderJson.write(order)).getBytes(StandardCharsets.UTF_8));
        } catch (IOException e) {
            throw new SessionFileException(
                    "The running order cannot be saved to " + file + ": " + e.getMessage() + ".",
                    "Check the folder's rights and the space on the disk, or save it elsewhere.",
                    e);
        }
    }

    /** Where a song lies. */
    public static Path path(Path file, Song song) {
        return folder(file).resolve(song.path()).normalize();
    }

    /** A song's path as its running order has it: relative where it lies in or beside the running order's folder. */
    public static String written(Path file, Path song) {
        Path folder = folder(file);
        Path whole = song.toAbsolutePath().normalize();
        Path beside = folder.getParent();
        boolean near =
                whole.startsWith(folder) || (beside != null && beside.getParent() != null && whole.startsWith(beside));
        String path = near ? folder.relativize(whole).toString() : whole.toString();
        return path.isEmpty() ? "." : path.replace('\\', '/');
    }
}
