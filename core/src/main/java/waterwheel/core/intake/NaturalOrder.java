package waterwheel.core.intake;

import java.nio.file.Path;
import java.util.Comparator;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Names as people sort them: {@code 2 Snare} before {@code 10 Bass}. */
public final class NaturalOrder {
    private static final Pattern NUMBER = Pattern.compile("\\d+");
    /** Digits that a number is filled up to; longer ones are compared as they are. */
    private static final int DIGITS = 20;

    private NaturalOrder() {}

    /** Names by the numbers in them, letters of either size alike; what is alike then, as it is spelt. */
    public static Comparator<String> ofNames() {
        return Comparator.comparing(NaturalOrder::key).thenComparing(Comparator.naturalOrder());
    }

    /** Files by their names. */
    public static Comparator<Path> byName() {
        return Comparator.comparing(file -> String.valueOf(file.getFileName()), ofNames());
    }

    private static String key(String name) {
        return NUMBER.matcher(name.toLowerCase(Locale.ROOT))
                .replaceAll(number -> Matcher.quoteReplacement(
                        "0".repeat(Math.max(0, DIGITS - number.group().length())) + number.group()));
    }
}
