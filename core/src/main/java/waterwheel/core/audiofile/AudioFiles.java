package waterwheel.core.audiofile;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.OptionalInt;
import waterwheel.core.errors.AudioFileException;

/** Opens audio files of every format that can be read. */
public final class AudioFiles {
    private static final List<String> ENDINGS =
            List.of(".wav", ".wave", ".bwf", ".rf64", ".aif", ".aiff", ".aifc", ".flac");

    private AudioFiles() {}

    /** Endings of the names of files that can be read, in lower case, each with its dot. */
    public static List<String> endings() {
        return ENDINGS;
    }

    /** Whether the name says that this is an audio file that can be read. */
    public static boolean looksLikeAudio(Path file) {
        String name = String.valueOf(file.getFileName()).toLowerCase(Locale.ROOT);
        return !name.startsWith(".") && ENDINGS.stream().anyMatch(name::endsWith);
    }

    /** Whether any frame of the file can be reached at once, so that it can be played from where it is. */
    public static boolean playedDirectly(AudioFile file) {
        return file instanceof PcmFile;
    }

    /**
     * Returns the sample rate that a file states, without decoding it.
     *
     * @return in Hz; empty where the file cannot be read or states none that can be
     */
    public static OptionalInt sampleRateHz(Path file) {
        try {
            requirePlainFile(file);
            if (FlacFile.recognises(file)) {
                return FlacFile.sampleRateHz(file);
            }
            try (AudioFile audio = PcmFile.open(file)) {
                return OptionalInt.of(audio.format().sampleRateHz());
            }
        } catch (IOException | AudioFileException e) {
            return OptionalInt.empty();
        }
    }

    /** Refuses what is not there, and what waits for ever when it is opened, such as a pipe or a device. */
    private static void requirePlainFile(Path file) throws AudioFileException {
        if (!Files.exists(file)) {
            throw new AudioFileException(file, "does not exist.", "Check the path, or put the file back.");
        }
        if (!Files.isRegularFile(file)) {
            throw new AudioFileException(file, "is not a file.", "Name an audio file.");
        }
    }

    /**
     * Opens a file.
     *
     * @throws AudioFileException if the file is missing, unreadable, or not in a form that can be read
     */
    public static AudioFile open(Path file) throws AudioFileException {
        requirePlainFile(file);
        try {
            return FlacFile.recognises(file) ? FlacFile.open(file) : PcmFile.open(file);
        } catch (IOException e) {
            throw new AudioFileException(
                    file, "cannot be read: " + e.getMessage() + ".", "Check that you may read it.", e);
        }
    }
}
