package waterwheel.core.units;

/**
 * Text from outside, such as a name in a file, made fit for a sentence: of bounded length, and without characters that
 * steer a terminal, break a line or turn the direction of writing.
 */
public final class PlainText {
    private static final String CUT = " \u2026 ";

    private PlainText() {}

    /**
     * Returns the text with a question mark for every character that is not seen but does something.
     *
     * @param most how many characters are kept; of a longer text the middle is left out
     */
    public static String of(String text, int most) {
        if (text.length() <= most) {
            return visible(text);
        }
        int begin = (most - CUT.length()) * 2 / 3;
        int end = text.length() - (most - CUT.length() - begin);
        // Half a surrogate pair is no character.
        begin -= Character.isHighSurrogate(text.charAt(begin - 1)) ? 1 : 0;
        end += Character.isLowSurrogate(text.charAt(end)) ? 1 : 0;
        return visible(text.substring(0, begin) + CUT + text.substring(end));
    }

    /** Returns the text with a question mark for every character that is not seen but does something. */
    public static String visible(String text) {
        StringBuilder out = new StringBuilder(text.length());
        text.codePoints().forEach(c -> out.appendCodePoint(steers(c) ? '?' : c));
        return out.toString();
    }

    private static boolean steers(int character) {
        return switch (Character.getType(character)) {
            case Character.CONTROL, Character.LINE_SEPARATOR, Character.PARAGRAPH_SEPARATOR, Character.SURROGATE ->
                true;
            // Joiners belong to names in some scripts; overrides of direction do not.
            case Character.FORMAT ->
                (character >= 0x202A && character <= 0x202E) || (character >= 0x2066 && character <= 0x2069);
            default -> false;
        };
    }
}
