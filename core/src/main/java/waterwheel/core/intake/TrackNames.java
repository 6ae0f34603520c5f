package waterwheel.core.intake;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.regex.Pattern;

/** Proposes track names from file names: what all files have in common says nothing of any one of them. */
public final class TrackNames {
    private static final Pattern NUMBER = Pattern.compile("^\\d{1,3}[ .)-]+(?=\\S)");
    private static final Pattern TAKE = Pattern.compile("(?i)[ .-]+(take|tk) ?\\d+$|[ .-]+\\(\\d+\\)$");

    private TrackNames() {}

    /**
     * Proposes a name for each file, all unlike each other.
     *
     * @param stems file names without their endings
     */
    public static List<String> of(List<String> stems) {
        List<String> names = stems.stream().map(TrackNames::spaced).toList();
        if (names.stream().allMatch(n -> NUMBER.matcher(n).find())) {
            names = where(names, n -> NUMBER.matcher(n).replaceFirst(""));
        }
        names = where(names, withoutCommonWords(names));
        names = where(names, n -> NUMBER.matcher(n).replaceFirst(""));
        names = where(names, n -> TAKE.matcher(n).replaceFirst(""));
        return unlike(names);
    }

    private static String spaced(String stem) {
        String name = stem.replace('_', ' ').replaceAll("\\s+", " ").strip();
        return name.isEmpty() ? "Track" : name;
    }

    /** Takes a change only where it leaves every name a name and no two the same that were not. */
    private static List<String> where(List<String> names, UnaryOperator<String> change) {
        List<String> changed = names.stream().map(change).map(String::strip).toList();
        boolean clear = changed.stream().noneMatch(String::isEmpty) && distinct(changed) == distinct(names);
        return clear ? changed : names;
    }

    private static long distinct(List<String> names) {
        return names.stream().map(n -> n.toLowerCase(Locale.ROOT)).distinct().count();
    }

    /** Words that every name begins with; of two names that is too little to go by. */
    private static UnaryOperator<String> withoutCommonWords(List<String> names) {
        if (names.size() < 3) {
            return name -> name;
        }
        String[] first = names.getFirst().split(" ", -1);
        int common = 0;
        while (common < first.length - 1) {
            String begin = String.join(" ", Arrays.copyOf(first, common + 1)) + " ";
            if (!names.stream().allMatch(n -> n.startsWith(begin))) {
                break;
            }
            common++;
        }
        int letters =
                common == 0 ? 0 : String.join(" ", Arrays.copyOf(first, common)).length() + 1;
        return name -> name.substring(letters).replaceFirst("^[-.]+ ?(?=\\S)", "");
    }

    private static List<String> unlike(List<String> names) {
        Set<String> taken = new HashSet<>();
        List<String> out = new ArrayList<>();
        for (String name : names) {
            String candidate = name;
            for (int i = 2; !taken.add(candidate.toLowerCase(Locale.ROOT)); i++) {
                candidate = name + " " + i;
            }
            out.add(candidate);
        }
        return out;
    }
}
