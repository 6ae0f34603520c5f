package waterwheel.core.order;

/**
 * Tells a song of a running order from the others; the same song may stand in it twice.
 *
 * @param value letters, digits, dots and hyphens
 */
public record SongId(String value) {
    public SongId {
        if (!value.matches("[A-Za-z0-9.-]{1,80}")) {
            throw new IllegalArgumentException("value: '" + value + "' (expected: 1 to 80 letters, digits, . and -)");
        }
    }

    @Override
    public String toString() {
        return value;
    }
}
