package waterwheel.core.sources;

import java.util.Optional;
import waterwheel.core.units.Ranges;

/**
 * An audio file that the session uses, with the facts that must hold for the session to sound as it was made.
 *
 * @param path relative to the session's folder with forward slashes, or absolute where the file was linked knowingly
 * @param channels 1 or 2
 * @param encoding how samples are stored, such as {@code PCM 24-bit} or {@code float 32-bit}
 * @param contentHash what the file is found by where its name or place changed; empty where it is not known
 * @param modifiedMillis when the file was last written when its content was looked at, in ms since 1970; while that holds,
 *     the content need not be looked at again; 0 where it is not known
 * @param flattening what was lost in the file that this one was converted from; empty for none
 */
public record AudioSource(
        SourceId id,
        String path,
        long frames,
        int channels,
        int sampleRateHz,
        String encoding,
        String contentHash,
        long modifiedMillis,
        Optional<Flattening> flattening) {
    public AudioSource {
        frames = Ranges.checked("frames", frames, 0);
        if (path.isBlank()) {
            throw new IllegalArgumentException("path: blank (expected: a file's path)");
        }
        if (channels != 1 && channels != 2) {
            throw new IllegalArgumentException("channels: " + channels + " (expected: 1 or 2)");
        }
        if (sampleRateHz < 1) {
            throw new IllegalArgumentException("sampleRateHz: " + sampleRateHz + " (expected: at least 1)");
        }
    }

    /** A source whose content was not looked at. */
    public AudioSource(SourceId id, String path, long frames, int channels, int sampleRateHz, String encoding) {
        this(id, path, frames, channels, sampleRateHz, encoding, "", 0, Optional.empty());
    }

    public AudioSource withPath(String value) {
        return new AudioSource(
                id, value, frames, channels, sampleRateHz, encoding, contentHash, modifiedMillis, flattening);
    }

    /** Returns the source with what its file holds now. */
    public AudioSource withContent(String hash, long modified) {
        return new AudioSource(id, path, frames, channels, sampleRateHz, encoding, hash, modified, flattening);
    }

    /** The last part of the path. */
    public String fileName() {
        return path.substring(Math.max(path.lastIndexOf('/'), path.lastIndexOf('\\')) + 1);
    }
}
