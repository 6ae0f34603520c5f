package waterwheel.core.inserts;

import java.util.List;
import waterwheel.core.rides.Control;
import waterwheel.core.rides.Scale;

/**
 * A setting of a kind of processor.
 *
 * @param key its name in the session file, ending in its unit
 * @param name its name on screen
 * @param unit of its value; empty for a ratio or a choice
 * @param least the smallest value
 * @param most the largest value
 * @param usual the value that a new processor has, and a reset brings back
 * @param choices where it is a choice among few: the words of the values 0, 1 and so on
 * @param built whether the processor is built by it: it changes the latency or what is remembered, so it cannot move
 *     while sound runs
 */
public record Parameter(
        String key,
        String name,
        String unit,
        double least,
        double most,
        double usual,
        List<String> choices,
        boolean built) {
    public Parameter {
        choices = List.copyOf(choices);
        if (!(least <= usual && usual <= most)) {
            throw new IllegalArgumentException("usual: " + usual + " (expected: " + least + " to " + most + ")");
        }
    }

    /** One that can move while sound runs. */
    public static Parameter range(String key, String name, String unit, double least, double most, double usual) {
        return new Parameter(key, name, unit, least, most, usual, List.of(), false);
    }

    /** One that the processor is built by. */
    public static Parameter built(String key, String name, String unit, double least, double most, double usual) {
        return new Parameter(key, name, unit, least, most, usual, List.of(), true);
    }

    /** A choice, by which the processor is built. */
    public static Parameter choice(String key, String name, int usual, String... words) {
        return new Parameter(key, name, "", 0, words.length - 1.0, usual, List.of(words), true);
    }

    /** As something that can be ridden: a frequency's line is straight in octaves. */
    public Control control() {
        return new Control(key, name, unit, least, most, unit.equals("Hz") ? Scale.OCTAVES : Scale.PLAIN);
    }
}
