package waterwheel.core.audiofile;

import java.io.IOException;
import java.nio.file.Path;
import waterwheel.core.errors.AudioFileException;

/**
 * Waterwheel's own mark in the files that it renders: the originator of a Broadcast Wave file (EBU Tech 3285), a comment
 * of a FLAC file. What bears it can be rendered again; recordings bear none.
 */
public final class RenderMark {
    /** Who rendered the file. */
    public static final String NAME = "Waterwheel";

    static final String FLAC_COMMENT = "ENCODED-BY=" + NAME;

    private RenderMark() {}

    /** Whether a plain file is one that was rendered here; false for whatever cannot be read. */
    public static boolean isOn(Path file) {
        try {
            if (FlacFile.recognises(file)) {
                return FlacFile.comments(file).contains(FLAC_COMMENT);
            }
            return WavHeader.originator(file).equals(NAME);
        } catch (IOException | AudioFileException e) {
            return false;
        }
    }
}
