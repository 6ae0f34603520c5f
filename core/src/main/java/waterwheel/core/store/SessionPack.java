package waterwheel.core.store;

import java.io.BufferedInputStream;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Stream;
import java.util.zip.Deflater;
import java.util.zip.ZipEntry;
import java.util.zip.ZipException;
import java.util.zip.ZipInputStream;
import java.util.zip.ZipOutputStream;
import waterwheel.core.edit.FreezeLock;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.session.Channel;
import waterwheel.core.session.Session;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.work.AsideFile;
import waterwheel.core.work.Leftovers;
import waterwheel.core.work.Progress;

/** A session with all of its files in one, to be handed to someone. */
public final class SessionPack {
    private static final int BUFFER = 1 << 16;

    private SessionPack() {}

    /**
     * Packs a session: what lies elsewhere comes into its folder for audio, under a name that no other file has.
     *
     * @param folder the session's
     * @param frozen whether frozen sounds go with it; without them their channels are computed
     * @param overwrite whether a file of that name is replaced
     * @return the names of files that are missing, and that are not in the pack
     * @throws SessionFileException if the pack cannot be written; nothing is left under its name
     * @throws java.util.concurrent.CancellationException if the progress says stop; likewise
     */
    public static List<String> pack(
            Session session, Path folder, Path zip, boolean frozen, boolean overwrite, Progress progress)
            throws SessionFileException {
        if (Files.exists(zip) && !overwrite) {
            throw new SessionFileException(
                    zip + " is there already, and is not replaced.",
                    "Choose another name, or ask for it with --overwrite.");
        }
        refuseOwn(session, folder, zip);
        Session whole = frozen
                ? session
                : FreezeLock.unfrozen(
                        session, session.channels().stream().map(Channel::id).toList());
        Set<String> taken = new HashSet<>();
        whole.sources().stream()
                .filter(source -> !Path.of(source.path()).isAbsolute())
                .forEach(source -> taken.add(source.path().toLowerCase(Locale.ROOT)));
        List<AudioSource> inside = new ArrayList<>();
        List<Path> files = new ArrayList<>();
        for (AudioSource source : whole.sources()) {
            files.add(folder.resolve(source.path()));
            inside.add(within(source.path()) ? source : source.withPath(free(source.fileName(), taken)));
        }
        List<String> missing = new ArrayList<>();
        try {
            AsideFile.write(zip, path -> {
                try (OutputStream out = new BufferedOutputStream(Files.newOutputStream(path), BUFFER);
                        ZipOutputStream packed = new ZipOutputStream(out)) {
                    // Samples hardly get smaller, and packing should not take long.
                    packed.setLevel(Deflater.BEST_SPEED);
                    packed.putNextEntry(new ZipEntry(SessionFolder.SESSION_FILE));
                    packed.write(SessionFolder.bytes(whole.withSources(inside)));
                    packed.closeEntry();
                    Set<String> written = new HashSet<>();
                    for (int i = 0; i < files.size(); i++) {
                        progress.check();
                        if (!Files.isRegularFile(files.get(i))) {
                            missing.add(inside.get(i).fileName());
                        } else if (written.add(inside.get(i).path())) {
                            packed.putNextEntry(new ZipEntry(inside.get(i).path()));
                            Files.copy(files.get(i), packed);
                            packed.closeEntry();
                        }
                        progress.at((i + 1.0) / files.size());
                    }
                }
            });
        } catch (IOException e) {
            throw new SessionFileException(
                    zip + " cannot be written: " + e.getMessage() + ".",
                    "Choose another place, or check its rights and the space on the disk.",
                    e);
        }
        return missing;
    }

    /** A session's own files are never replaced. */
    private static void refuseOwn(Session session, Path folder, Path zip) throws SessionFileException {
        Path place = zip.toAbsolutePath().normalize();
        Path home = folder.toAbsolutePath().normalize();
        Stream<Path> read = SessionFolder.READ_FOLDERS.stream().map(home::resolve);
        Stream<Path> own = Stream.concat(
                SessionFolder.OWN_FILES.stream().map(home::resolve),
                session.sources().stream()
                        .map(source -> home.resolve(source.path()).normalize()));
        if (read.anyMatch(place::startsWith) || own.anyMatch(place::equals)) {
            throw new SessionFileException(
                    zip + " would lie among what the session reads from.", "Choose a place outside of its folder.");
        }
    }

    private static boolean within(String path) {
        Path relative = Path.of(path);
        return !relative.isAbsolute() && !relative.normalize().startsWith("..");
    }

    private static String free(String fileName, Set<String> taken) {
        int dot = fileName.lastIndexOf('.');
        String stem = dot < 0 ? fileName : fileName.substring(0, dot);
        String ending = dot < 0 ? "" : fileName.substring(dot);
        String path = SessionFolder.AUDIO + "/" + fileName;
        for (int n = 2; !taken.add(path.toLowerCase(Locale.ROOT)); n++) {
            path = SessionFolder.AUDIO + "/" + stem + "-" + n + ending;
        }
        return path;
    }

    /**
     * Unpacks a session into a folder that is not there yet, or empty.
     *
     * @throws SessionFileException if it is no pack, would leave its folder, or the disk refuses; nothing is left behind
     * @throws java.util.concurrent.CancellationException if the progress says stop; likewise
     */
    public static void unpack(Path zip, Path folder, Progress progress) throws SessionFileException {
        Path place = folder.toAbsolutePath().normalize();
        Path parent = Objects.requireNonNullElse(place.getParent(), place);
        Path aside = Leftovers.name(parent, "unpacking");
        try {
            if (Files.exists(place) && (!Files.isDirectory(place) || !empty(place))) {
                throw new SessionFileException(
                        folder + " is there already, and is not replaced.", "Choose a folder that is not there yet.");
            }
            Leftovers.sweep(parent);
            Files.createDirectories(aside);
            extract(zip, aside, progress);
            if (!SessionFolder.isSession(aside)) {
                throw new SessionFileException(
                        zip + " holds no session: it has no " + SessionFolder.SESSION_FILE + ".",
                        "Choose a pack that Waterwheel made.");
            }
            SessionFolder.load(aside);
            Files.deleteIfExists(place);
            Files.move(aside, place);
        } catch (IOException e) {
            throw new SessionFileException(
                    zip + " cannot be unpacked to " + folder + ": " + e.getMessage() + ".",
                    "Check that the pack is whole, the folder's rights, and the space on the disk.",
                    e);
        } finally {
            remove(aside);
        }
    }

    private static boolean empty(Path folder) throws IOException {
        try (Stream<Path> files = Files.list(folder)) {
            return files.findAny().isEmpty();
        }
    }

    private static void extract(Path zip, Path into, Progress progress) throws IOException, SessionFileException {
        try (InputStream in = new BufferedInputStream(Files.newInputStream(zip), BUFFER);
                ZipInputStream packed = new ZipInputStream(in)) {
            boolean any = false;
            for (ZipEntry entry = packed.getNextEntry(); entry != null; entry = packed.getNextEntry()) {
                progress.check();
                any = true;
                if (entry.isDirectory()) {
                    continue;
                }
                Path file = inside(zip, into, entry.getName());
                Files.createDirectories(Objects.requireNonNull(file.getParent(), "a file's folder"));
                // Two entries of one name are refused by the disk.
                Files.copy(packed, file);
            }
            if (!any) {
                throw new ZipException("it is no ZIP file");
            }
        }
    }

    /** Where an entry goes; one that would leave the folder is refused, however it is written. */
    private static Path inside(Path zip, Path into, String name) throws SessionFileException {
        boolean plain = !name.contains("\\") && !name.startsWith("/") && !name.matches("^[A-Za-z]:.*");
        Path file = plain ? into.resolve(name).normalize() : into;
        if (!plain || !file.startsWith(into) || file.equals(into)) {
            throw new SessionFileException(
                    zip + " holds a file that would be written outside of its folder.",
                    "Do not unpack it; ask whoever made it for one that Waterwheel packed.");
        }
        return file;
    }

    private static void remove(Path aside) {
        try {
            Leftovers.deleteTree(aside);
        } catch (IOException e) {
            // Next time.
        }
    }
}
