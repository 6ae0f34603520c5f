package waterwheel.core.playback;

/** Hears what comes in while the song runs; called by the playing thread, so it must neither wait nor allocate. */
@FunctionalInterface
public interface InputListener {
    /**
     * Takes a block.
     *
     * @param in {@code [input][0 .. frames)}, full scale ±1.0
     * @param songFrame the frame of the song that goes out with it
     */
    void hear(float[][] in, int frames, long songFrame);
}
