package waterwheel.core.instruments;

/**
 * Something that can be set of the synthesised instrument.
 *
 * @param label the word on screen
 * @param unit empty for a plain number
 * @param step by which keys move it
 */
public record SynthParameter(String label, String unit, double least, double most, double step) {}
