package waterwheel.core.stems;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * What a render's files are called: a text in which {@code {number}}, {@code {part}}, {@code {song}}, {@code {rate}} (in
 * Hz) and {@code {date}} stand for what they say.
 *
 * @param date as it is to stand in names, in any form
 */
public record NamePattern(String text, String date) {
    private static final Pattern WORD = Pattern.compile("\\{([^{}]*)\\}");
    private static final List<String> WORDS = List.of("number", "part", "song", "rate", "date");
    private static final String PART = "{part}";

    /** A number and the part. */
    public static final NamePattern USUAL = new NamePattern("{number} {part}", "");

    /** The part alone, so that a part is called the same in every song. */
    public static final NamePattern BY_PART = new NamePattern(PART, "");

    public NamePattern {
        problem(text).ifPresent(problem -> {
            throw new IllegalArgumentException("text: '" + text + "' (expected: a pattern; " + problem + ")");
        });
    }

    /** What is wrong with a pattern, in a sentence with its remedy; empty where nothing is. */
    public static Optional<String> problem(String text) {
        Matcher words = WORD.matcher(text);
        while (words.find()) {
            if (!WORDS.contains(words.group(1))) {
                return Optional.of(
                        "'" + words.group() + "' stands for nothing; use {" + String.join("}, {", WORDS) + "}.");
            }
        }
        return text.contains(PART) || text.contains("{number}")
                ? Optional.empty()
                : Optional.of("Every file would be called the same; put {part} or {number} into it.");
    }

    /** The name of a file without its ending, not yet safe for file systems. */
    String named(int number, String part, String song, int sampleRateHz) {
        Map<String, String> values = Map.of(
                "number",
                number < 10 ? "0" + number : "" + number,
                "part",
                part,
                "song",
                song,
                "rate",
                "" + sampleRateHz,
                "date",
                date);
        return WORD.matcher(text).replaceAll(word -> Matcher.quoteReplacement(values.getOrDefault(word.group(1), "")));
    }
}
