package waterwheel.core.stems;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.MissingNode;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import waterwheel.core.audiofile.RenderFormat;
import waterwheel.core.audiofile.RenderMark;
import waterwheel.core.errors.RenderException;
import waterwheel.core.json.Json;
import waterwheel.core.session.Session;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.store.SessionFolder;
import waterwheel.core.units.LevelText;

/**
 * Where renders may go. Nothing that a session reads is ever replaced, nor what is not a plain file; a plain file is
 * replaced where it bears Waterwheel's own mark, any other only where that was asked for.
 */
public final class RenderPlace {
    /** What a manifest vouches for, itself among it. */
    private static final Set<String> BESIDE = Set.of(StemRender.MANIFEST, StemRender.REPORT, StemRender.CHECKSUMS);

    private static final int MOST_MANIFEST_BYTES = 16 << 20;
    /** Free space that is left to others. */
    private static final long SPARE_BYTES = 16 << 20;

    private final Session session;
    private final Path sessionFolder;

    /** @param sessionFolder from which relative paths of sources start */
    public RenderPlace(Session session, Path sessionFolder) {
        this.session = session;
        this.sessionFolder = sessionFolder;
    }

    /**
     * The files that a render would replace although they do not bear Waterwheel's mark.
     *
     * @param targets files that it will write
     */
    public static List<Path> foreign(Collection<Path> targets) {
        List<Path> foreign = new ArrayList<>();
        for (Path target : targets) {
            if (Files.isRegularFile(target, LinkOption.NOFOLLOW_LINKS) && !isOwn(target)) {
                foreign.add(target);
            }
        }
        return foreign;
    }

    /**
     * A manifest says of itself what it is, and vouches for what is to be read beside it, and for the FLAC files that it lists:
     * those of earlier versions bear no mark of their own.
     */
    private static boolean isOwn(Path file) {
        Path folder = file.toAbsolutePath().getParent();
        String name = String.valueOf(file.getFileName());
        if (folder != null && BESIDE.contains(name)) {
            return !listed(folder).isEmpty();
        }
        return RenderMark.isOn(file)
                || (folder != null
                        && name.endsWith(RenderFormat.FLAC_24.ending())
                        && listed(folder).contains(name));
    }

    /** The files that the manifest in a folder lists, relative to it; none where there is no manifest of ours. */
    static List<String> listed(Path folder) {
        return entries(folder, manifest(folder)).stream()
                .map(one -> one.path("path").asText())
                .toList();
    }

    /** What a folder's manifest says of the files that lie in it; nothing where one has no possible name. */
    static List<JsonNode> entries(Path folder, JsonNode manifest) {
        List<JsonNode> entries = new ArrayList<>();
        try {
            for (JsonNode one : manifest.path("files")) {
                if (folder.resolve(one.path("path").asText()).normalize().startsWith(folder.normalize())) {
                    entries.add(one);
                }
            }
            return entries;
        } catch (IllegalArgumentException e) {
            return List.of();
        }
    }

    /** The manifest in a folder; without anything in it where there is none of ours. */
    static JsonNode manifest(Path folder) {
        Path manifest = folder.resolve(StemRender.MANIFEST);
        try {
            if (Files.isRegularFile(manifest) && Files.size(manifest) <= MOST_MANIFEST_BYTES) {
                JsonNode node = Json.parse(Files.readString(manifest, StandardCharsets.UTF_8));
                if (node.path("format").asText().equals(ManifestJson.FORMAT)) {
                    return node;
                }
            }
            return MissingNode.getInstance();
        } catch (IOException | IllegalArgumentException e) {
            return MissingNode.getInstance();
        }
    }

    /**
     * Refuses a folder that renders may not go to.
     *
     * @throws RenderException if a session reads from it, or it is no folder
     */
    public void checkFolder(Path folder) throws RenderException {
        if (Files.exists(folder) && !Files.isDirectory(folder)) {
            throw new RenderException(folder + " is not a folder.", "Choose a folder to render to.");
        }
        Path real = real(folder);
        for (Path read : foldersRead()) {
            if (real.equals(real(read))) {
                throw readFrom(folder);
            }
        }
        for (Path at = real; at != null; at = at.getParent()) {
            Path above = at.getParent();
            boolean own = SessionFolder.READ_FOLDERS.contains(String.valueOf(at.getFileName()));
            if (own && above != null && SessionFolder.isSession(above)) {
                throw readFrom(folder);
            }
        }
    }

    private static RenderException readFrom(Path folder) {
        return new RenderException(
                "A session reads its files from " + folder + "; no render goes there.",
                "Choose another folder, such as " + SessionFolder.RENDERS + " in the session's own.");
    }

    private Set<Path> foldersRead() {
        Set<Path> folders = new LinkedHashSet<>();
        for (AudioSource source : session.sources()) {
            Path folder = sessionFolder.resolve(source.path()).toAbsolutePath().getParent();
            if (folder != null) {
                folders.add(folder);
            }
        }
        SessionFolder.READ_FOLDERS.forEach(name -> folders.add(sessionFolder.resolve(name)));
        return folders;
    }

    private static Path real(Path path) {
        try {
            return path.toRealPath();
        } catch (IOException e) {
            return path.toAbsolutePath().normalize();
        }
    }

    /**
     * Refuses files that a render may not replace.
     *
     * @param overwrite whether plain files without Waterwheel's mark may be replaced too
     * @throws RenderException if one is a session's file, is no plain file, or bears no mark and may not be replaced
     */
    public void checkFiles(Collection<Path> targets, boolean overwrite) throws RenderException {
        for (Path target : targets) {
            String name = String.valueOf(target.getFileName());
            if (target.getFileName() == null
                    || (Files.exists(target, LinkOption.NOFOLLOW_LINKS)
                            && !Files.isRegularFile(target, LinkOption.NOFOLLOW_LINKS))) {
                throw new RenderException(
                        target + " is not a plain file, and nothing is rendered onto it.", "Name another file.");
            }
            if (SessionFolder.OWN_FILES.contains(name) || isSource(target)) {
                throw new RenderException(
                        target + " belongs to a session, and no render replaces it.", "Name another file.");
            }
        }
        List<Path> foreign = overwrite ? List.of() : foreign(targets);
        if (!foreign.isEmpty()) {
            throw new RenderException(
                    foreign.getFirst() + (foreign.size() == 1 ? " was" : " and " + (foreign.size() - 1) + " more were")
                            + " not rendered by Waterwheel and would be replaced.",
                    "Choose another place, or say that they may be replaced (--overwrite).");
        }
    }

    private boolean isSource(Path target) throws RenderException {
        if (!Files.exists(target)) {
            return false;
        }
        for (AudioSource source : session.sources()) {
            try {
                Path file = sessionFolder.resolve(source.path());
                if (Files.exists(file) && Files.isSameFile(file, target)) {
                    return true;
                }
            } catch (IOException e) {
                throw new RenderException(
                        target + " cannot be told from the session's files: " + e.getMessage() + ".",
                        "Name another file.",
                        e);
            }
        }
        return false;
    }

    /**
     * Compares what a render will take with what is free.
     *
     * @throws RenderException if it is more
     */
    static void checkSpace(Path folder, long bytes) throws RenderException {
        Path there = folder.toAbsolutePath();
        while (there != null && !Files.exists(there)) {
            there = there.getParent();
        }
        try {
            long free =
                    there == null ? Long.MAX_VALUE : Files.getFileStore(there).getUsableSpace();
            if (bytes > free - SPARE_BYTES) {
                throw new RenderException(
                        "The render takes " + gigabytes(bytes) + " GB, and " + gigabytes(free) + " GB are free in "
                                + folder + ".",
                        "Render to another disk, or a shorter song.");
            }
        } catch (IOException e) {
            // A disk that does not tell will refuse by itself when it is full.
        }
    }

    private static String gigabytes(long bytes) {
        return LevelText.signed(bytes * 1e-9, 2, false);
    }
}
