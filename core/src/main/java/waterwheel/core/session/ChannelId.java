package waterwheel.core.session;

/**
 * A channel's identity, which stays when its name changes.
 *
 * @param value letters, digits, dots and hyphens; unique among the session's channels
 */
public record ChannelId(String value) {
    public ChannelId {
        if (!value.matches("[A-Za-z0-9.-]{1,80}")) {
            throw new IllegalArgumentException("value: '" + value + "' (expected: 1 to 80 letters, digits, . and -)");
        }
    }

    @Override
    public String toString() {
        return value;
    }
}
