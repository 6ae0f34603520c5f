package waterwheel.core.units;

import java.text.Normalizer;
import java.util.Locale;
import java.util.regex.Pattern;

/** Names as people mean them, whatever their spelling. */
public final class PlainName {
    private static final Pattern NUMBER = Pattern.compile("^\\d{1,3}[ ._)-]+(?=\\S)");

    private PlainName() {}

    /** The name without the number that it was given to stand in its place. */
    public static String withoutNumber(String name) {
        return NUMBER.matcher(name.strip()).replaceFirst("");
    }

    /** Small letters without accents, without the number before them, words apart by one space. */
    public static String of(String name) {
        return Normalizer.normalize(withoutNumber(name), Normalizer.Form.NFD)
                .replaceAll("\\p{M}", "")
                .toLowerCase(Locale.ROOT)
                .replaceAll("[\\s_-]+", " ")
                .strip();
    }
}
