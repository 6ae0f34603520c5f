package waterwheel.core.instruments;

import java.util.Locale;
import java.util.Map;
import java.util.OptionalInt;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Keys by number or by name. */
final class KeyNames {
    private static final Pattern NAME = Pattern.compile("([a-g])([#b]?)(-?[0-9])");
    private static final Pattern WITHIN = Pattern.compile("(?<![a-z])([a-g][#b]?-?[0-9])(?![0-9a-z#])");
    private static final Map<Character, Integer> STEPS =
            Map.of('c', 0, 'd', 2, 'e', 4, 'f', 5, 'g', 7, 'a', 9, 'b', 11);

    private KeyNames() {}

    /** A key such as {@code 61}, {@code c#4} or {@code Db4}; middle C is C4. */
    static OptionalInt key(String text) {
        String small = text.strip().toLowerCase(Locale.ROOT);
        if (small.matches("-?[0-9]{1,3}")) {
            return within(Integer.parseInt(small));
        }
        Matcher matcher = NAME.matcher(small);
        if (!matcher.matches()) {
            return OptionalInt.empty();
        }
        int sharp = matcher.group(2).isEmpty() ? 0 : matcher.group(2).equals("#") ? 1 : -1;
        Integer step = STEPS.get(matcher.group(1).charAt(0));
        return step == null
                ? OptionalInt.empty()
                : within(step + sharp + 12 * (Integer.parseInt(matcher.group(3)) + 1));
    }

    private static OptionalInt within(int key) {
        return key >= 0 && key <= 127 ? OptionalInt.of(key) : OptionalInt.empty();
    }

    /** The last key's name within a file's name. */
    static OptionalInt inside(String fileName) {
        String small = fileName.toLowerCase(Locale.ROOT);
        Matcher matcher = WITHIN.matcher(small);
        OptionalInt last = OptionalInt.empty();
        while (matcher.find()) {
            OptionalInt found = key(matcher.group(1));
            last = found.isPresent() ? found : last;
        }
        return last;
    }
}
