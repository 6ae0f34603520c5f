package waterwheel.core.levels;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashSet;
import java.util.Set;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
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
    public static final String FOLDER = "cache";

    private static final String LEVELS = ".levels";
    private static final String FACTS = ".facts";

    private final @Nullable Path folder;
    private final Set<String> used = new HashSet<>();

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

    @Nullable
    LevelSeries series(SignalKey key, Detail detail) {
        Path file = file(key.hex() + "-" + detail, LEVELS);
        return file == null ? null : SeriesFile.read(file);
    }

    /** Keeps a series, and returns it as it lies on the disk. */
    LevelSeries keep(SignalKey key, Detail detail, LevelSeries series) {
        Path file = file(key.hex() + "-" + detail, LEVELS);
        if (file != null) {
            try {
                SeriesFile.write(series, file);
                LevelSeries mapped = SeriesFile.read(file);
                return mapped == null ? series : mapped;
            } catch (IOException e) {
                // It stays on the heap then.
            }
        }
        return series;
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
                if (!used.contains(String.valueOf(file.getFileName()))) {
                    Files.deleteIfExists(file);
                }
            }
        } catch (IOException e) {
            // Next time.
        }
    }
}
