package waterwheel.core.units;

import java.util.Locale;
import java.util.OptionalDouble;

/**
 * The text of levels, gains and times as every screen, report and message shows them: sign and unit always there, a
 * true minus sign, one decimal unless said otherwise. Independent of the machine's locale.
 */
public final class LevelText {
    /** U+2212, as wide as a plus sign, so that columns of figures line up. */
    public static final String MINUS = "\u2212";

    private LevelText() {}

    /** A level with its unit, such as {@code −18.0 dBFS} or {@code +2.1 dBFS}; {@code −inf dBFS} for silence. */
    public static String level(double value, String unit) {
        return signed(value, 1, true) + " " + unit;
    }

    /** A change or gain with its sign, such as {@code +2.1 dB}, {@code −3.0 dB}, {@code 0.0 dB}. */
    public static String change(double db) {
        return signed(db, 1, true) + " dB";
    }

    /** A number with the given decimals and a true minus; a plus where asked and the rounded value is above 0. */
    public static String signed(double value, int decimals, boolean plus) {
        if (value == Double.NEGATIVE_INFINITY) {
            return MINUS + "inf";
        }
        String digits = String.format(Locale.ROOT, "%." + decimals + "f", Math.abs(value));
        boolean zero = digits.chars().allMatch(c -> c == '0' || c == '.');
        return (zero ? "" : value < 0 ? MINUS : plus ? "+" : "") + digits;
    }

    /** A place in the song, such as {@code 1:07.3}; seconds, 0 or more. */
    public static String time(double seconds) {
        long tenths = Math.round(seconds * 10);
        return String.format(Locale.ROOT, "%d:%02d.%d", tenths / 600, tenths / 10 % 60, tenths % 10);
    }

    /**
     * Reads a number as typed, decibels or another unit on screen: a plain or true minus, an optional unit, a comma for a point, and {@code
     * -inf} for silence.
     *
     * @return the value, or empty where the text is no number
     */
    public static OptionalDouble parse(String typed) {
        String text = typed.strip()
                .replace(MINUS, "-")
                .replace(',', '.')
                .replaceFirst("(?i)\\s*(dBFS|dBTP|dBu|LUFS|dB|VU|ms|samples|s|%)$", "");
        if (text.equalsIgnoreCase("-inf")) {
            return OptionalDouble.of(Double.NEGATIVE_INFINITY);
        }
        if (!text.matches("[+-]?(\\d+\\.?\\d*|\\.\\d+)")) {
            return OptionalDouble.empty();
        }
        return OptionalDouble.of(Double.parseDouble(text));
    }
}
