package waterwheel.core.session;

/**
 * An audio file that the session uses, with the facts that must hold for the session to sound as it was made.
 *
 * @param path relative to the session's folder with forward slashes, or absolute where the file was linked knowingly
 * @param channels 1 or 2
 * @param encoding how samples are stored, such as {@code PCM 24-bit} or {@code float 32-bit}
 */
public record AudioSource(SourceId id, String path, long frames, int channels, int sampleRateHz, String encoding) {
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

    /** The last part of the path. */
    public String fileName() {
        return path.substring(Math.max(path.lastIndexOf('/'), path.lastIndexOf('\\')) + 1);
    }
}
