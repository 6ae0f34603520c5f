package waterwheel.core.audiofile;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import java.util.Set;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.sources.SourceId;

/** Files that a session records or renders for itself, in a folder of its own; of 32-bit float unless told otherwise. */
public final class RecordedFile {
    public static final String ENDING = ".wav";
    /** Nearer to full scale than this a converter has clipped. */
    private static final float FULL_SCALE = 0.999_999f;

    private RecordedFile() {}

    /**
     * Makes a folder, unless it is there.
     *
     * @throws AudioFileException if the disk refuses
     */
    public static void makeFolder(Path folder) throws AudioFileException {
        try {
            Files.createDirectories(folder);
        } catch (IOException e) {
            throw AudioFileException.cannotWrite(folder, e);
        }
    }

    /**
     * A file that is not there yet, in a folder that is from now on: recordings are never replaced.
     *
     * @param name with which the file's begins
     * @throws AudioFileException if the folder cannot be made
     */
    public static Path free(Path folder, String name) throws AudioFileException {
        return free(folder, name, Set.of());
    }

    /** Likewise, and one that is not among some others. */
    public static Path free(Path folder, String name, Set<Path> taken) throws AudioFileException {
        makeFolder(folder);
        int number = 1;
        Path file = folder.resolve(name + "-" + number + ENDING);
        while (Files.exists(file) || taken.contains(file)) {
            number++;
            file = folder.resolve(name + "-" + number + ENDING);
        }
        return file;
    }

    /** How many samples of a plane came in at full scale. */
    public static int clipped(float[] plane, int from, int end) {
        int count = 0;
        for (int i = from; i < end; i++) {
            count += Math.abs(plane[i]) >= FULL_SCALE ? 1 : 0;
        }
        return count;
    }

    /**
     * A whole file as one that a session uses; it is read for its hash.
     *
     * @param folder its folder's name in the session's
     * @throws AudioFileException if it cannot be read
     */
    public static AudioSource source(SourceId id, String folder, Path file, long frames, int planes, int sampleRateHz)
            throws AudioFileException {
        return source(id, folder, file, frames, planes, sampleRateHz, SampleEncoding.FLOAT_32);
    }

    /** Likewise, of another encoding. */
    public static AudioSource source(
            SourceId id, String folder, Path file, long frames, int planes, int sampleRateHz, SampleEncoding encoding)
            throws AudioFileException {
        try {
            return source(id, folder, file, frames, planes, sampleRateHz, encoding, ContentHash.of(file));
        } catch (IOException e) {
            throw AudioFileException.cannotWrite(file, e);
        }
    }

    /** A whole file whose hash is known. */
    public static AudioSource source(
            SourceId id,
            String folder,
            Path file,
            long frames,
            int planes,
            int sampleRateHz,
            SampleEncoding encoding,
            String hash)
            throws IOException {
        return new AudioSource(
                id,
                folder + "/" + file.getFileName(),
                frames,
                planes,
                sampleRateHz,
                encoding.label(),
                hash,
                Files.getLastModifiedTime(file).toMillis(),
                Optional.empty());
    }
}
