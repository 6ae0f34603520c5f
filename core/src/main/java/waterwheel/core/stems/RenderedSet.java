package waterwheel.core.stems;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import waterwheel.core.audiofile.RenderMark;
import waterwheel.core.work.AsideFile;

/**
 * Files that get their names together: where that fails, all that was there is as it was. While they do, the manifest
 * says that the render is not finished, which is what a kill leaves.
 */
final class RenderedSet {
    private final Path aside;
    private final Path folder;
    private final List<String> paths;
    private final List<String> gone;

    /**
     * Makes a set of files that are whole.
     *
     * @param aside the folder that they lie in
     * @param folder the one that they are for
     * @param paths of the files in both
     */
    RenderedSet(Path aside, Path folder, List<String> paths) {
        this.aside = aside;
        this.folder = folder;
        this.paths = List.copyOf(paths);
        Set<String> present = new HashSet<>(paths);
        gone = RenderPlace.listed(folder).stream()
                .filter(path -> !present.contains(path))
                .filter(path -> Files.isRegularFile(folder.resolve(path), LinkOption.NOFOLLOW_LINKS))
                .toList();
    }

    /** Files of the render before this that this one does not have, and that are Waterwheel's own: they go. */
    List<String> swept() {
        return gone.stream()
                .filter(path -> RenderMark.isOn(folder.resolve(path)))
                .toList();
    }

    /** Such files that somebody else has written since: they stay. */
    List<String> leftBehind() {
        List<String> swept = swept();
        return gone.stream().filter(path -> !swept.contains(path)).toList();
    }

    /**
     * Gives all files their names.
     *
     * @param unfinished the manifest until then
     * @param readable by name, what is to be read beside them
     * @param manifest the manifest from then on
     * @throws IOException if the disk refuses; what was there is there again
     */
    void place(String unfinished, Map<String, String> readable, String manifest) throws IOException {
        Path before = Files.createDirectories(aside.resolve("before"));
        Map<Path, @Nullable Path> placed = new LinkedHashMap<>();
        List<String> swept = swept();
        try {
            replace(before, placed, StemRender.MANIFEST, written(StemRender.MANIFEST, unfinished));
            for (String path : paths) {
                replace(before, placed, path, aside.resolve(path));
            }
            for (String path : swept) {
                replace(before, placed, path, null);
            }
            for (Map.Entry<String, String> text : readable.entrySet()) {
                replace(before, placed, text.getKey(), written(text.getKey(), text.getValue()));
            }
            move(written(StemRender.MANIFEST, manifest), folder.resolve(StemRender.MANIFEST));
        } catch (IOException | RuntimeException e) {
            // What could not be put back is told beside the reason, not instead of it.
            try {
                restore(placed);
            } catch (IOException clearing) {
                e.addSuppressed(clearing);
            }
            throw e;
        }
    }

    private Path written(String name, String text) throws IOException {
        Path file = aside.resolve(name);
        AsideFile.write(file, path -> Files.writeString(path, text, StandardCharsets.UTF_8));
        return file;
    }

    /** @param with null to take the file away */
    private void replace(Path before, Map<Path, @Nullable Path> placed, String path, @Nullable Path with)
            throws IOException {
        Path target = folder.resolve(path);
        Files.createDirectories(Objects.requireNonNull(target.toAbsolutePath().getParent(), "a file's folder"));
        Path kept = null;
        if (Files.exists(target, LinkOption.NOFOLLOW_LINKS)) {
            kept = before.resolve(String.valueOf(placed.size()));
            move(target, kept);
        }
        placed.put(target, kept);
        if (with != null) {
            move(with, target);
        }
    }

    private static void restore(Map<Path, @Nullable Path> placed) throws IOException {
        for (Path target : new ArrayList<>(placed.keySet()).reversed()) {
            Path kept = placed.get(target);
            if (kept == null) {
                Files.deleteIfExists(target);
            } else {
                move(kept, target);
            }
        }
    }

    private static void move(Path from, Path to) throws IOException {
        Files.move(from, to, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
    }
}
