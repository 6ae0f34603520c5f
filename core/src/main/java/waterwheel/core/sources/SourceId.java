package waterwheel.core.sources;

/**
 * An audio file's identity inside the session.
 *
 * @param value letters, digits, dots and hyphens; unique among the session's audio sources
 */
public record SourceId(String value) {
    public SourceId {
        if (!value.matches("[A-Za-z0-9.-]{1,80}")) {
            throw new IllegalArgumentException("value: '" + value + "' (expected: 1 to 80 letters, digits, . and -)");
        }
    }

    @Override
    public String toString() {
        return value;
    }
}
