package waterwheel.core.stems;

import java.nio.file.Path;
import waterwheel.core.audiofile.SampleEncoding;

/**
 * What to render.
 *
 * @param folder where the files go; made if it is not there
 * @param encoding PCM_16, PCM_24 or FLOAT_32
 * @param cues whether clicks and cues are written too, in a folder of their own
 */
public record StemRequest(Path folder, SampleEncoding encoding, LevelPolicy policy, boolean cues) {}
