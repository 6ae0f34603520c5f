package waterwheel.core.engine;

/** Hears a signal while a plan runs: on any thread of the team, one block at a time; must not allocate. */
public interface SignalListener {
    /**
     * Takes a block.
     *
     * @param signal {@code signal[plane][0 .. frames)}, full scale ±1.0; not to be changed or kept
     * @param firstFrame the block's first frame on the song's line
     */
    void hear(float[][] signal, long firstFrame, int frames);
}
