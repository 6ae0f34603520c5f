package waterwheel.core.edit;

import java.util.Collection;

/** Names and ids that end in a number. */
public final class Numbered {
    private Numbered() {}

    /**
     * The first that is not taken.
     *
     * @param prefix what stands before the number
     * @param first the lowest number that is tried
     */
    public static String free(String prefix, int first, Collection<String> taken) {
        int number = first;
        while (taken.contains(prefix + number)) {
            number++;
        }
        return prefix + number;
    }
}
