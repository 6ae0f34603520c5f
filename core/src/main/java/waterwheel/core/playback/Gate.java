package waterwheel.core.playback;

/** Opens and closes what is heard sample by sample, for a start, a stop and a jump. One thread; allocates nothing. */
final class Gate {
    private static final double SECONDS = 0.005;

    private final float step;
    private final float[] levels;
    /** From 0, closed, to 1. */
    private float level;

    Gate(int mostFrames, int sampleRateHz) {
        step = (float) (1 / (SECONDS * sampleRateHz));
        levels = new float[mostFrames];
    }

    /** Whether anything is heard through it. */
    boolean open() {
        return level > 0;
    }

    /** Closes it at once. */
    void shut() {
        level = 0;
    }

    /** Moves it towards open or closed, and has planes go through it. */
    void pass(float[][] planes, int frames, boolean opens) {
        for (int i = 0; i < frames; i++) {
            level = opens ? Math.min(1, level + step) : Math.max(0, level - step);
            levels[i] = level;
        }
        for (float[] plane : planes) {
            for (int i = 0; i < frames; i++) {
                plane[i] *= levels[i];
            }
        }
    }
}
