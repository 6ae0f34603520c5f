package waterwheel.core.processing;

import org.jspecify.annotations.Nullable;

/** An effect that follows moves over a whole block at once, with the same samples as if it were told one by one. */
interface Following extends Effect {
    /** Tells which of the kind's parameters move over the song; what hangs on them is ready for it at any time. */
    void expect(int[] parameters);

    /**
     * Processes the next frames in place, while the settings move.
     *
     * @param key as in {@link Effect#process}
     */
    void follow(float[][] signal, float @Nullable [] @Nullable [] key, int frames, Moves moves);
}
