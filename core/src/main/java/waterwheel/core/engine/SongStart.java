package waterwheel.core.engine;

import java.util.Arrays;
import org.jspecify.annotations.Nullable;
import waterwheel.core.processing.Effect;

/**
 * Begins a processor with the song's first frame, however late its input is: before that there is nothing, neither for
 * it to hear nor from it, so that where it stands at the song's beginning does not hang on what is before it. One thread
 * at a time; allocates nothing after construction.
 */
final class SongStart {
    private final Effect effect;
    private final int late;
    private final float[][] block;
    private final float[][] keyBlock;

    /**
     * Makes the beginning of a processor.
     *
     * @param late by how many frames its input is late
     */
    SongStart(Effect effect, int late, int planes, int maxFrames) {
        this.effect = effect;
        this.late = late;
        int frames = late == 0 ? 0 : maxFrames;
        block = new float[planes][frames];
        keyBlock = new float[planes][frames];
    }

    /** Tells where the engine goes on; the song's frame is earlier by what is late. */
    void seek(long engineFrame) {
        effect.seek(Math.max(0, engineFrame - late));
    }

    /** Processes a block in place, as {@link Effect#process} does. */
    void process(long firstFrame, float[][] signal, float @Nullable [] @Nullable [] key, int frames) {
        int before = Math.clamp(late - firstFrame, 0, frames);
        if (before == 0) {
            effect.process(signal, key, frames);
            return;
        }
        int count = frames - before;
        for (int p = 0; p < signal.length; p++) {
            float[] heard = key == null ? null : key[p];
            System.arraycopy(signal[p], before, block[p], 0, count);
            if (heard != null) {
                System.arraycopy(heard, before, keyBlock[p], 0, count);
            }
        }
        if (count > 0) {
            effect.process(block, key == null ? null : keyBlock, count);
        }
        for (int p = 0; p < signal.length; p++) {
            Arrays.fill(signal[p], 0, before, 0);
            System.arraycopy(block[p], 0, signal[p], before, count);
        }
    }
}
