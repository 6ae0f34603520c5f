package waterwheel.core.processing;

import org.jspecify.annotations.Nullable;

/** An effect that follows moves over a whole block at once, with the same samples as if it were told one by one. */
interface Following extends Effect {
    /**
     * Processes the next frames in place, while the settings move.
     *
     * @param key as in {@link Effect#process}
     */
    void follow(float[][] signal, float @Nullable [] @Nullable [] key, int frames, Moves moves);
}
