package waterwheel.core.units;

import java.text.Normalizer;
import java.util.Locale;
import java.util.regex.Pattern;

/** Whole words in track names, whatever their case and accents. */
public final class NameWords {
    private final Pattern pattern;

    /** @param alternatives words in small letters without accents, with bars between them */
    public NameWords(String alternatives) {
        pattern = Pattern.compile("(^|[^a-z])(" + alternatives + ")([^a-z]|$)");
    }

    /** Whether a name holds one of the words. */
    public boolean in(String name) {
        String plain = Normalizer.normalize(name, Normalizer.Form.NFD)
                .replaceAll("\\p{M}", "")
                .toLowerCase(Locale.ROOT);
        return pattern.matcher(plain).find();
    }
}
