package waterwheel.core.inserts;

import java.util.List;

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
 */
public record Parameter(
        String key, String name, String unit, double least, double most, double usual, List<String> choices) {
    public Parameter {
        choices = List.copyOf(choices);
        if (!(least <= usual && usual <= most)) {
            throw new IllegalArgumentException("usual: " + usual + " (expected: " + least + " to " + most + ")");
        }
    }

    static Parameter range(String key, String name, String unit, double least, double most, double usual) {
        return new Parameter(key, name, unit, least, most, usual, List.of());
    }

    static Parameter choice(String key, String name, int usual, String... words) {
        return new Parameter(key, name, "", 0, words.length - 1.0, usual, List.of(words));
    }
}
