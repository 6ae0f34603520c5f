package waterwheel.core.audiofile;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.sources.SourceId;

/** Files of 32-bit floating-point samples that a session records or renders for itself, in a folder of its own. */
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
        makeFolder(folder);
        int number = 1;
        while (Files.exists(folder.resolve(name + "-" + number + ENDING))) {
            number++;
        }
        return folder.resolve(name + "-" + number + ENDING);
    }

    /** The file's name without its ending. */
    public static String stem(Path file) {
        return String.valueOf(file.getFileName()).replace(ENDING, "");
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
        try {
            return source(id, folder, file, frames, planes, sampleRateHz, ContentHash.of(file));
        } catch (IOException e) {
            throw AudioFileException.cannotWrite(file, e);
        }
    }

    /** A whole file whose hash is known. */
    public static AudioSource source(
            SourceId id, String folder, Path file, long frames, int planes, int sampleRateHz, String hash)
            throws IOException {
        return new AudioSource(
                id,
                folder + "/" + file.getFileName(),
                frames,
                planes,
                sampleRateHz,
                SampleEncoding.FLOAT_32.label(),
                hash,
                Files.getLastModifiedTime(file).toMillis(),
                Optional.empty());
    }
}
