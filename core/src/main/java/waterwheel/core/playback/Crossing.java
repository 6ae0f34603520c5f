package waterwheel.core.playback;

import org.jspecify.annotations.Nullable;
import waterwheel.core.playback.Preparation.Playing;

/** Moves the sound from a run that is left to the one that plays, sample by sample. One thread; allocates nothing. */
final class Crossing {
    private static final double SECONDS = 0.02;

    private final int length;
    /** What the run that is left still gives out. */
    private final float[][] leavingOut;

    private @Nullable Playing leaving;
    private int crossed;

    Crossing(int planes, int mostFrames, int sampleRateHz) {
        length = (int) (SECONDS * sampleRateHz);
        leavingOut = new float[planes][mostFrames];
    }

    /** Whether two runs are heard. */
    boolean underWay() {
        return leaving != null;
    }

    /** Begins to leave a run. */
    void leave(Playing one) {
        leaving = one;
        crossed = 0;
    }

    /** Lets go of the run that is left: nothing is heard of either any more. */
    void drop() {
        leaving = null;
    }

    /**
     * Adds what is left of the run that is left.
     *
     * @param at the frame of the song with which the block begins
     * @param out what the other run gives out; what is heard afterwards
     */
    void into(float[][] out, long at, int frames) {
        Playing old = leaving;
        if (old == null) {
            return;
        }
        old.run().process(at + old.late(), frames);
        old.patch().collect(old.run(), leavingOut, frames);
        for (int p = 0; p < leavingOut.length; p++) {
            float[] before = leavingOut[p];
            float[] after = out[p];
            for (int i = 0; i < frames; i++) {
                float part = Math.min(1, (crossed + i + 1f) / length);
                after[i] = before[i] + part * (after[i] - before[i]);
            }
        }
        crossed += frames;
        if (crossed >= length) {
            leaving = null;
        }
    }
}
