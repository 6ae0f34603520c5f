package waterwheel.core.intake;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import waterwheel.core.audiofile.AudioFormat;
import waterwheel.core.audiofile.ContentHash;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.sources.Flattening;
import waterwheel.core.sources.SourceId;

/**
 * A file that a session can use.
 *
 * @param path relative to the session's folder with forward slashes, or absolute where the file was linked
 * @param format of that file, at the session's rate, of 1 or 2 channels
 * @param name what the file that it came from is called, without ending; with a number where it held several channels
 * @param contentHash see {@link waterwheel.core.audiofile.ContentHash}
 * @param modifiedMillis when that was looked at last, in ms since 1970: when the file was written
 * @param flattening what was lost in the file that this one was converted from
 */
public record ImportedFile(
        String path,
        AudioFormat format,
        String name,
        String contentHash,
        long modifiedMillis,
        Optional<Flattening> flattening) {
    /** Looks at a file's content. */
    static ImportedFile of(Path file, String path, AudioFormat format, String name, Optional<Flattening> flattening)
            throws IOException {
        long modified = Files.getLastModifiedTime(file).toMillis();
        return new ImportedFile(path, format, name, ContentHash.of(file), modified, flattening);
    }

    /** The source of a session that uses this file. */
    public AudioSource source(SourceId id) {
        return new AudioSource(
                id,
                path,
                format.frames(),
                format.channels(),
                format.sampleRateHz(),
                format.encoding().label(),
                contentHash,
                modifiedMillis,
                flattening);
    }
}
