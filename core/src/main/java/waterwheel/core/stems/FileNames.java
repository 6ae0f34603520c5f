package waterwheel.core.stems;

import java.nio.charset.StandardCharsets;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.text.Normalizer;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Pattern;

/** Names of files from names of channels: what every file system takes, and no longer than it takes. */
public final class FileNames {
    /** File systems take 255 bytes; an ending and a number to tell it from others come on top. */
    private static final int MOST_BYTES = 200;

    /** Names of devices on some systems. */
    private static final Pattern RESERVED = Pattern.compile("(?i)(con|prn|aux|nul|com\\d|lpt\\d)([.].*)?");

    private FileNames() {}

    /**
     * A number, then the name without what file systems refuse.
     *
     * @param taken names in use, as {@link #alike} has them; the new one is added
     */
    public static String unique(int number, String name, Set<String> taken) {
        return unique(String.format(Locale.ROOT, "%02d %s", number, name.isBlank() ? "stem" : name), taken);
    }

    /** The name without what any file system refuses, with a number behind it where it is taken. */
    static String unique(String name, Set<String> taken) {
        String safe = shortened(
                        named(name).replaceAll("[\\\\/:*?\"<>|\\p{Cntrl}]", "-").strip())
                .replaceAll("[. ]+$", "");
        String base = safe.isEmpty() || RESERVED.matcher(safe).matches() ? ("stem " + safe).strip() : safe;
        String candidate = base;
        for (int i = 2; !taken.add(alike(candidate)); i++) {
            candidate = base + " " + i;
        }
        return candidate;
    }

    /** What is the same for two names that some file system takes for one. */
    static String alike(String name) {
        return Normalizer.normalize(name, Normalizer.Form.NFC).toLowerCase(Locale.ROOT);
    }

    /** The name as this system can write it: where that is ASCII alone, without its accents. */
    private static String named(String name) {
        try {
            return Path.of(name.replace('\0', '-')).toString();
        } catch (InvalidPathException e) {
            return Normalizer.normalize(name, Normalizer.Form.NFD)
                    .replaceAll("\\p{M}", "")
                    .replaceAll("[^ -~]", "-");
        }
    }

    /** As many whole characters as there is room for. */
    private static String shortened(String name) {
        StringBuilder kept = new StringBuilder();
        int bytes = 0;
        for (int character : name.codePoints().toArray()) {
            String one = Character.toString(character);
            bytes += one.getBytes(StandardCharsets.UTF_8).length;
            if (bytes > MOST_BYTES) {
                break;
            }
            kept.append(one);
        }
        return kept.toString();
    }
}
