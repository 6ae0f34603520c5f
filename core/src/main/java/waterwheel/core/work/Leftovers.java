package waterwheel.core.work;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Instant;
import java.util.Comparator;
import java.util.Objects;
import java.util.concurrent.atomic.AtomicLong;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/**
 * Hidden files and folders that a process works at before they get their names. Their own names say which process that
 * is, so that after a kill the next one can tell what nobody works at any more, and sweep it. Any thread.
 */
public final class Leftovers {
    private static final Pattern NAME = Pattern.compile("\\.ww-([a-z]+)-(\\d+)-(\\d+)-\\d+");
    /** A list of files that are to go with it. */
    private static final String MAKING = "making";

    private static final AtomicLong COUNT = new AtomicLong();

    private Leftovers() {}

    /**
     * A name in a folder that no other process and no other work of this one has.
     *
     * @param what the kind of work, in small letters
     */
    public static Path name(Path folder, String what) {
        ProcessHandle self = ProcessHandle.current();
        return folder.resolve(".ww-" + what + "-" + self.pid() + "-" + started(self) + "-" + COUNT.incrementAndGet());
    }

    /** A process has a number that another one had before, but not at the same time. */
    private static long started(ProcessHandle process) {
        return process.info().startInstant().map(Instant::toEpochMilli).orElse(0L);
    }

    /** Files that are being made under their own names, and go again unless all of them are. */
    public static final class Making implements AutoCloseable {
        private final Path folder;
        private final Path list;

        /** Begins in a folder, which must be there. */
        public Making(Path folder) throws IOException {
            this.folder = folder;
            list = name(folder, MAKING);
            Files.createFile(list);
        }

        /** Notes a file before it is made. */
        public synchronized void making(Path file) throws IOException {
            String line = folder.relativize(file) + "\n";
            Files.writeString(list, line, StandardCharsets.UTF_8, StandardOpenOption.APPEND);
        }

        /** The files are whole and stay. */
        public synchronized void done() throws IOException {
            Files.deleteIfExists(list);
        }

        /** Takes all files away again, unless they are whole. */
        @Override
        public synchronized void close() throws IOException {
            if (Files.exists(list)) {
                sweepList(list);
            }
        }
    }

    /** Removes what is left in a folder of processes that live no more; what cannot be removed stays for the next time. */
    public static void sweep(Path folder) {
        if (!Files.isDirectory(folder)) {
            return;
        }
        try (Stream<Path> all = Files.list(folder)) {
            for (Path one : all.filter(Leftovers::orphaned).toList()) {
                remove(one);
            }
        } catch (IOException e) {
            // Next time.
        }
    }

    private static boolean orphaned(Path file) {
        Matcher name = NAME.matcher(String.valueOf(file.getFileName()));
        if (!name.matches()) {
            return false;
        }
        try {
            long started = Long.parseLong(name.group(3));
            return ProcessHandle.of(Long.parseLong(name.group(2)))
                    .filter(process -> started(process) == started)
                    .isEmpty();
        } catch (NumberFormatException e) {
            return false;
        }
    }

    private static void remove(Path file) throws IOException {
        if (String.valueOf(file.getFileName()).startsWith(".ww-" + MAKING)) {
            sweepList(file);
        } else {
            deleteTree(file);
        }
    }

    private static void sweepList(Path list) throws IOException {
        Path folder = Objects.requireNonNull(list.toAbsolutePath().normalize().getParent(), "a file's folder");
        for (String line : Files.readAllLines(list, StandardCharsets.UTF_8)) {
            Path file = folder.resolve(line).normalize();
            if (file.startsWith(folder) && Files.isRegularFile(file, LinkOption.NOFOLLOW_LINKS)) {
                Files.delete(file);
            }
            // Folders that were made for it and are empty now.
            for (Path parent = file.getParent();
                    parent != null && parent.startsWith(folder) && !parent.equals(folder) && isEmpty(parent);
                    parent = parent.getParent()) {
                Files.delete(parent);
            }
        }
        Files.delete(list);
    }

    private static boolean isEmpty(Path folder) throws IOException {
        sweep(folder);
        try (Stream<Path> inside = Files.list(folder)) {
            return inside.findAny().isEmpty();
        }
    }

    /** Deletes a file, or a folder with all that is in it. */
    public static void deleteTree(Path root) throws IOException {
        if (!Files.exists(root, LinkOption.NOFOLLOW_LINKS)) {
            return;
        }
        try (Stream<Path> files = Files.walk(root)) {
            for (Path file : files.sorted(Comparator.reverseOrder()).toList()) {
                Files.delete(file);
            }
        }
    }
}
