package waterwheel.core.processing;

import org.jspecify.annotations.Nullable;

/** A processor at work. One thread at a time; {@link #process} and {@link #move} allocate nothing. */
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

    /**
     * Goes from the settings that it has to others, in a straight line from frame to frame, while it works: what it
     * remembers stays. Settings by which it is built ({@link waterwheel.core.inserts.Parameter#built}) stay as they are.
     *
     * @param values of the kind's parameters, in their order and units
     * @param frames after how many it is there; 0 for at once
     */
    void move(double[] values, int frames);

    /** Forgets all that came before, and is where it moves to. */
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

    /** About how much it remembers, in bytes, for those who keep copies of it. */
    default long memoryBytes() {
        return 16_384;
    }

    /** How much the gain is turned down now, in dB, 0 or more; 0 for what turns nothing down. */
    default double reductionDb() {
        return 0;
    }
}
