package waterwheel.core.sources;

import java.util.Set;

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

    /** An id that begins with a name and is not taken yet; it is from now on. */
    public static SourceId free(String name, Set<SourceId> taken) {
        SourceId id = new SourceId(name);
        for (int n = 2; !taken.add(id); n++) {
            id = new SourceId(name + "-" + n);
        }
        return id;
    }

    @Override
    public String toString() {
        return value;
    }
}
