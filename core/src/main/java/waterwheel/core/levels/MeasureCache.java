package waterwheel.core.levels;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import waterwheel.core.audiofile.ContentNotes;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.SignalKey;
import waterwheel.core.filefacts.FactsFile;
import waterwheel.core.filefacts.FileFacts;
import waterwheel.core.metering.Detail;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.metering.SeriesFile;

/**
 * What was measured of a session's files, kept in a folder beside it, so that it opens at once the next time and long
 * takes do not fill the heap. Everything in it can be measured again: where the disk refuses, it is done without. One
 * thread at a time.
 */
public final class MeasureCache {
    /** The folder's name in a session's folder. */
    public static final String FOLDER = Media.CACHE;

    private static final String LEVELS = ".levels";
    private static final String FACTS = ".facts";
    /** Where measurements lie that are not of files: of stages, buses and stems. */
    private static final String ASKED = "asked";
    /** What they may take, some hundred stages of a song each; those that were asked for longest ago go. */
    private static final long MOST_ASKED_BYTES = 1L << 30;

    private final @Nullable Path folder;
    /** The files that were asked for, and those that are not measurements. */
    private final Set<String> used = new HashSet<>(Set.of(ContentNotes.FILE));

    private MeasureCache(@Nullable Path folder) {
        this.folder = folder;
    }

    /** A cache in a session's folder; one that keeps nothing where that cannot be written. */
    public static MeasureCache in(Path sessionFolder) {
        try {
            return new MeasureCache(Files.createDirectories(sessionFolder.resolve(FOLDER)));
        } catch (IOException e) {
            return none();
        }
    }

    /** A cache that keeps nothing. */
    public static MeasureCache none() {
        return new MeasureCache(null);
    }

    /**
     * A file's series, of which at least so much was gathered.
     *
     * @return null where there is none
     */
    @Nullable
    LevelSeries series(SignalKey key, Detail least) {
        Path file = first(least, detail -> file(name(key.hex(), detail), LEVELS));
        return file == null ? null : SeriesFile.read(file);
    }

    /** The one of the least detail that exists, from a least one on; null where none does. */
    private static @Nullable Path first(Detail least, Function<Detail, @Nullable Path> place) {
        for (Detail detail : EnumSet.range(least, Detail.EVERYTHING)) {
            Path file = place.apply(detail);
            if (file != null && Files.exists(file)) {
                return file;
            }
        }
        return null;
    }

    private static String name(String of, Detail detail) {
        return of + "-" + detail;
    }

    /** Keeps a series, and returns it as it lies on the disk. */
    LevelSeries keep(SignalKey key, Detail detail, LevelSeries series) {
        return keep(file(name(key.hex(), detail), LEVELS), series);
    }

    private static LevelSeries keep(@Nullable Path file, LevelSeries series) {
        if (file != null) {
            try {
                Files.createDirectories(file.resolveSibling(""));
                SeriesFile.write(series, file);
                LevelSeries mapped = SeriesFile.read(file);
                return mapped == null ? series : mapped;
            } catch (IOException e) {
                // It stays on the heap then.
            }
        }
        return series;
    }

    /**
     * A series of something else than a file, of which at least so much was gathered.
     *
     * @param name tells it from all others
     * @return null where there is none
     */
    @Nullable
    LevelSeries asked(String name, Detail least) {
        Path file = askedFile(name, least);
        return file == null ? null : SeriesFile.read(file);
    }

    /** Whether a series lies here, which then stays the longer. */
    boolean holds(String name, Detail least) {
        return askedFile(name, least) != null;
    }

    private @Nullable Path askedFile(String name, Detail least) {
        Path file = first(least, detail -> askedFile(name(name, detail)));
        if (file != null) {
            try {
                Files.setLastModifiedTime(file, FileTime.from(Instant.now()));
            } catch (IOException e) {
                // Then it goes sooner than it should.
            }
        }
        return file;
    }

    /** Keeps a series of something else than a file, and returns it as it lies on the disk. */
    LevelSeries keepAsked(String name, Detail detail, LevelSeries series) {
        return keep(askedFile(name(name, detail)), series);
    }

    private @Nullable Path askedFile(String name) {
        return folder == null ? null : folder.resolve(ASKED).resolve(name + LEVELS);
    }

    /** @param state what tells the file and its state from others */
    @Nullable
    FileFacts facts(String state) {
        Path file = file(SignalKey.ofText(state).hex(), FACTS);
        return file == null ? null : FactsFile.read(file);
    }

    void keep(String state, FileFacts facts) {
        Path file = file(SignalKey.ofText(state).hex(), FACTS);
        if (file != null) {
            try {
                FactsFile.write(facts, file);
            } catch (IOException e) {
                // They are scanned again next time.
            }
        }
    }

    private @Nullable Path file(String name, String ending) {
        if (folder == null) {
            return null;
        }
        used.add(name + ending);
        return folder.resolve(name + ending);
    }

    /** Removes what nothing asked for since the cache was opened, such as measurements of files that were replaced. */
    void removeUnused() {
        if (folder == null) {
            return;
        }
        try (Stream<Path> files = Files.list(folder)) {
            for (Path file : files.toList()) {
                if (Files.isRegularFile(file) && !used.contains(String.valueOf(file.getFileName()))) {
                    Files.deleteIfExists(file);
                }
            }
        } catch (IOException e) {
            // Next time.
        }
    }

    /** Removes, of what is not of files, what there is no room for. */
    void removeOldest() {
        if (folder == null || !Files.isDirectory(folder.resolve(ASKED))) {
            return;
        }
        record Kept(Path file, long bytes, FileTime time) {}
        try (Stream<Path> files = Files.list(folder.resolve(ASKED))) {
            List<Kept> kept = new ArrayList<>();
            for (Path file : files.toList()) {
                kept.add(new Kept(file, Files.size(file), Files.getLastModifiedTime(file)));
            }
            kept.sort(Comparator.comparing(Kept::time).reversed());
            long bytes = 0;
            for (Kept one : kept) {
                bytes += one.bytes();
                if (bytes > MOST_ASKED_BYTES) {
                    Files.deleteIfExists(one.file());
                }
            }
        } catch (IOException e) {
            // Next time.
        }
    }
}
