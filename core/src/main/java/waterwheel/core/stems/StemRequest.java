package waterwheel.core.stems;

import java.nio.file.Path;
import waterwheel.core.audiofile.RenderFormat;

/**
 * What to render.
 *
 * @param folder where the files go; made if it is not there
 * @param cues whether clicks and cues are written too, in a folder of their own
 */
public record StemRequest(Path folder, RenderFormat format, LevelPolicy policy, boolean cues) {}
