package waterwheel.core.intake;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import waterwheel.core.audiofile.AudioFile;
import waterwheel.core.audiofile.AudioFiles;
import waterwheel.core.audiofile.AudioFormat;
import waterwheel.core.audiofile.ContentHash;
import waterwheel.core.edit.Edit;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.session.Session;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.sources.SourceId;
import waterwheel.core.work.Progress;

/**
 * Finds the files of sources that are missing: by what they hold, whatever they are called now; and where that is not
 * known, by name, length, rate, channels and encoding.
 */
public final class Relink {
    private static final int DEEPEST = 8;

    private Relink() {}

    /**
     * Looks for missing files in a folder and the folders below it.
     *
     * @param missing sources whose files are not where the session says
     * @return the place of each that was found
     * @throws SessionFileException if the folder cannot be listed
     */
    public static Map<SourceId, Path> find(List<AudioSource> missing, Path folder, Progress progress)
            throws SessionFileException {
        Map<SourceId, Path> found = new LinkedHashMap<>();
        try (Stream<Path> files = Files.walk(folder, DEEPEST)) {
            List<Path> candidates = files.filter(Files::isRegularFile)
                    .filter(AudioFiles::looksLikeAudio)
                    .sorted()
                    .toList();
            for (int i = 0; i < candidates.size(); i++) {
                progress.check();
                Path file = candidates.get(i);
                String hash = ContentHash.of(file);
                for (AudioSource source : missing) {
                    boolean same = source.contentHash().isEmpty()
                            ? source.fileName().equals(String.valueOf(file.getFileName())) && matches(source, file)
                            : source.contentHash().equals(hash);
                    if (same && !found.containsKey(source.id())) {
                        found.put(source.id(), file.toAbsolutePath().normalize());
                    }
                }
                progress.at((double) i / candidates.size());
            }
        } catch (IOException e) {
            throw new SessionFileException(
                    folder + " cannot be searched: " + e.getMessage() + ".", "Choose another folder.", e);
        }
        return found;
    }

    private static boolean matches(AudioSource source, Path file) {
        try (AudioFile audio = AudioFiles.open(file)) {
            AudioFormat format = audio.format();
            return format.frames() == source.frames()
                    && format.channels() == source.channels()
                    && format.sampleRateHz() == source.sampleRateHz()
                    && format.encoding().label().equals(source.encoding());
        } catch (AudioFileException e) {
            return false;
        }
    }

    /** Points sources to the files that were found. */
    public static Edit edit(Map<SourceId, Path> found) {
        Map<SourceId, Path> copy = Map.copyOf(found);
        return new Edit("Place of " + copy.size() + (copy.size() == 1 ? " file" : " files"), session -> {
            List<AudioSource> sources = session.sources().stream()
                    .map(s -> copy.containsKey(s.id()) ? s.withPath(String.valueOf(copy.get(s.id()))) : s)
                    .toList();
            return session.withSources(sources);
        });
    }

    /** The sources of a session whose files do not exist. */
    public static List<AudioSource> missing(Session session, Path folder) {
        return session.sources().stream()
                .filter(s -> !Files.isRegularFile(folder.resolve(s.path())))
                .toList();
    }
}
