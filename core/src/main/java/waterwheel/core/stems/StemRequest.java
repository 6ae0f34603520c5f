package waterwheel.core.stems;

import java.nio.file.Path;
import waterwheel.core.audiofile.RenderFormat;
import waterwheel.core.units.Ranges;

/**
 * What to render.
 *
 * @param folder where the files go; made if it is not there
 * @param division what each stem is made of
 * @param treatment what buses do with each stem
 * @param tailSeconds how long the files go on after the song's end, so that reverbs die away; 0 to 60
 * @param cues whether clicks and cues are written too, in a folder of their own
 * @param overwrite whether files that were not rendered by Waterwheel may be replaced
 * @param incomplete whether to render although hardware is not captured as it is now
 */
public record StemRequest(
        Path folder,
        RenderFormat format,
        LevelPolicy policy,
        StemDivision division,
        Treatment treatment,
        double tailSeconds,
        boolean cues,
        boolean overwrite,
        boolean incomplete) {
    public static final double MOST_TAIL_SECONDS = 60;

    public StemRequest {
        tailSeconds = Ranges.checked("tailSeconds", tailSeconds, 0, MOST_TAIL_SECONDS);
    }

    /** A stem of each track, until the song's end. */
    public StemRequest(Path folder, RenderFormat format, LevelPolicy policy, boolean cues) {
        this(folder, format, policy, StemDivision.TRACKS, Treatment.AS_MIX, 0, cues, false, false);
    }

    /** A render that replaces its own files alone. */
    public StemRequest(
            Path folder,
            RenderFormat format,
            LevelPolicy policy,
            StemDivision division,
            double tailSeconds,
            boolean cues) {
        this(folder, format, policy, division, Treatment.AS_MIX, tailSeconds, cues, false, false);
    }

    public StemRequest withOverwrite(boolean value) {
        return new StemRequest(folder, format, policy, division, treatment, tailSeconds, cues, value, incomplete);
    }

    public StemRequest withIncomplete(boolean value) {
        return new StemRequest(folder, format, policy, division, treatment, tailSeconds, cues, overwrite, value);
    }

    public StemRequest withTreatment(Treatment value) {
        return new StemRequest(folder, format, policy, division, value, tailSeconds, cues, overwrite, incomplete);
    }
}
