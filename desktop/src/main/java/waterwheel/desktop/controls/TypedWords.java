package waterwheel.desktop.controls;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;

/**
 * Words that are looked for as they are typed: in any order, in capitals or not, parts of words too.
 *
 * @param words in small letters; none where nothing is typed
 */
public record TypedWords(List<String> words) {
    public TypedWords {
        words = List.copyOf(words);
    }

    /** The words of what is typed. */
    public static TypedWords of(String typed) {
        return new TypedWords(Arrays.stream(small(typed).strip().split("\\s+"))
                .filter(word -> !word.isEmpty())
                .toList());
    }

    /** Whether a text holds all of them; every text holds none. */
    public boolean allIn(String text) {
        return words.stream().allMatch(small(text)::contains);
    }

    /** Where a text holds the first of them; -1 where it does not, or nothing is typed. */
    public int firstIn(String text) {
        return words.isEmpty() ? -1 : small(text).indexOf(words.getFirst());
    }

    private static String small(String text) {
        return text.toLowerCase(Locale.ROOT);
    }
}
