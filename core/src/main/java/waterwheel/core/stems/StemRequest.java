package waterwheel.core.stems;

import java.nio.file.Path;
import waterwheel.core.audiofile.RenderFormat;

/**
 * What to render.
 *
 * @param folder where the files go; made if it is not there
 * @param settings what the stems sound like
 * @param names what the files are called
 * @param cues whether clicks and cues are written too, in a folder of their own
 * @param overwrite whether files that were not rendered by Waterwheel may be replaced
 * @param incomplete whether to render although hardware is not captured as it is now
 */
public record StemRequest(
        Path folder,
        RenderFormat format,
        LevelPolicy policy,
        StemSettings settings,
        NamePattern names,
        boolean cues,
        boolean overwrite,
        boolean incomplete) {

    /** A render of the usual stems that replaces its own files alone. */
    public StemRequest(Path folder, RenderFormat format, LevelPolicy policy, boolean cues) {
        this(folder, format, policy, StemSettings.USUAL, NamePattern.USUAL, cues, false, false);
    }

    public StemRequest with(StemSettings value) {
        return new StemRequest(folder, format, policy, value, names, cues, overwrite, incomplete);
    }

    public StemRequest with(NamePattern value) {
        return new StemRequest(folder, format, policy, settings, value, cues, overwrite, incomplete);
    }

    public StemRequest withOverwrite(boolean value) {
        return new StemRequest(folder, format, policy, settings, names, cues, value, incomplete);
    }

    public StemRequest withIncomplete(boolean value) {
        return new StemRequest(folder, format, policy, settings, names, cues, overwrite, value);
    }
}
