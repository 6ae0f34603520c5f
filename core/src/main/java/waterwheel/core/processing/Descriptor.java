package waterwheel.core.processing;

import waterwheel.core.inserts.Processor;
import waterwheel.core.inserts.ProcessorKind;

/**
 * All that there is to say of one kind of processor: its settings, how it starts, and what others must know of it.
 * Nothing else in the program names kinds.
 */
public interface Descriptor {
    ProcessorKind kind();

    /** Starts a processor of this kind. */
    Effect start(Processor settings, Site site);

    /** By how many frames it is late. */
    default int latencyFrames(Processor settings, int sampleRateHz) {
        return 0;
    }

    /** Whether planes do not hear each other and ask for so much work that threads had better share them. */
    default boolean planesApart() {
        return false;
    }

    /** Whether it gives out sound where none comes in, such as a test tone. */
    default boolean sounds() {
        return false;
    }

    /**
     * Whether it has something to remember when all that it heard since the song's beginning was silence, such as how far a
     * gate has closed. Of the others no setting matters before there is something to hear.
     */
    default boolean remembersSilence() {
        return sounds();
    }

    /** Whether what it does hangs on the level, so that parts of a signal are treated otherwise than the whole. */
    default boolean answersToLevel() {
        return false;
    }

    /**
     * Whether all that it does is to multiply by gains that it finds from what it hears, so that given a key it can turn a
     * part of a signal as the whole asks for: then parts add up to the whole.
     */
    default boolean sharesGain() {
        return false;
    }

    /** Whether it turns down by an amount that can be shown. */
    default boolean turnsDown() {
        return false;
    }

    /**
     * Whether it gives out something else than what it gets, such as an echo, so that how loud they are does not compare.
     * Loudness is not measured on account of it.
     */
    default boolean replaces() {
        return false;
    }

    /** What its panel draws. */
    default Picture picture(Processor settings, int sampleRateHz) {
        return new Picture.None();
    }
}
