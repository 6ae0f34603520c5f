package waterwheel.core.processing;

import org.jspecify.annotations.Nullable;

/** A processor at work. One thread at a time; {@link #process} allocates nothing. */
public interface Effect {
    /** By how many frames what comes out is later than what went in. */
    default int latencyFrames() {
        return 0;
    }

    /**
     * Processes the next frames in place.
     *
     * @param signal {@code signal[plane][0 .. frames)}, full scale ±1.0
     * @param key what the processor listens to instead of the signal, of the same shape; null for the signal itself
     */
    void process(float[][] signal, float @Nullable [] @Nullable [] key, int frames);

    /** Forgets all that came before. */
    void reset();

    /**
     * Tells where the song goes on: what has a time of its own, such as a test tone's phase, follows the song's. Called
     * before the first block and wherever the song is taken up elsewhere.
     *
     * @param songFrame the song's frame that is processed next, 0 or later
     */
    default void seek(long songFrame) {}

    /**
     * Goes on from where another effect stands, so that a changed setting does not begin in silence. Effects whose memory
     * has another shape begin anew.
     */
    void adopt(Effect other);

    /** How much the gain is turned down now, in dB, 0 or more; 0 for what turns nothing down. */
    default double reductionDb() {
        return 0;
    }
}
