package waterwheel.desktop.controls;

import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Where a channel sits, as it is read and typed: {@code left 40 %}, {@code centre}, and for two sides the width behind
 * it, {@code right 20 %, 80 %}. A number alone is to the right, a negative one to the left.
 *
 * @param position -1 (left) to 1 (right); empty where only a width was typed
 * @param width 0 to 2; empty where none was typed
 */
public record PlaceText(OptionalDouble position, OptionalDouble width) {
    private static final Pattern PLACE = Pattern.compile("(centre|center|left|right|c|l|r)?\\s*([-+−]?\\d+)?\\s*%?");
    private static final Pattern WIDTH = Pattern.compile("(?:wide|width|w)?\\s*(\\d+)\\s*%?\\s*(?:wide|width|w)?");

    /** How a place reads; the width stands behind it for two sides. */
    public static String of(double position, double width, boolean twoSides) {
        long percent = Math.round(Math.abs(position) * 100);
        String place = percent == 0 ? "centre" : (position < 0 ? "left " : "right ") + percent + " %";
        return twoSides ? place + ", " + Math.round(width * 100) + " %" : place;
    }

    /** What was typed; empty where it is no place. */
    static Optional<PlaceText> parse(String typed) {
        String text = typed.strip().toLowerCase(Locale.ROOT);
        int comma = text.indexOf(',');
        String place = comma < 0 ? text : text.substring(0, comma).strip();
        String wide = comma < 0 ? "" : text.substring(comma + 1).strip();
        if (comma < 0 && text.contains("w")) {
            place = "";
            wide = text;
        }
        Optional<OptionalDouble> position = position(place);
        Optional<OptionalDouble> width = width(wide);
        if (position.isEmpty() || width.isEmpty() || text.isEmpty()) {
            return Optional.empty();
        }
        return Optional.of(new PlaceText(position.get(), width.get()));
    }

    private static Optional<OptionalDouble> position(String text) {
        Matcher found = PLACE.matcher(text);
        if (!found.matches()) {
            return Optional.empty();
        }
        String word = found.group(1);
        String number = found.group(2);
        if (word == null && number == null) {
            return text.isEmpty() ? Optional.of(OptionalDouble.empty()) : Optional.empty();
        }
        if (word != null && word.startsWith("c")) {
            return number == null ? Optional.of(OptionalDouble.of(0)) : Optional.empty();
        }
        if (number == null) {
            return Optional.of(OptionalDouble.of(word.startsWith("l") ? -1 : 1));
        }
        double value = percent(number, 100);
        return Optional.of(
                OptionalDouble.of(word == null ? value : word.startsWith("l") ? -Math.abs(value) : Math.abs(value)));
    }

    private static Optional<OptionalDouble> width(String text) {
        Matcher found = WIDTH.matcher(text);
        if (found.matches()) {
            return Optional.of(OptionalDouble.of(percent(found.group(1), 200)));
        }
        return text.isEmpty() ? Optional.of(OptionalDouble.empty()) : Optional.empty();
    }

    /** A percentage as a part, held within what there is. */
    private static double percent(String digits, int most) {
        String number = digits.replace('−', '-');
        // More digits than a place has are as far as it goes.
        double value = Double.parseDouble(number);
        return Math.clamp(value, -most, most) / 100;
    }
}
