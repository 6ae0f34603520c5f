package waterwheel.core.session;

import java.util.List;

/**
 * A stem that was put together by hand.
 *
 * @param members tracks, buses with all that comes together in them, and returns; by id
 */
public record NamedStem(ChannelId id, String name, List<ChannelId> members) {
    public NamedStem {
        if (name.isBlank()) {
            throw new IllegalArgumentException("name: blank (expected: a name)");
        }
        members = List.copyOf(members);
    }

    public NamedStem withName(String value) {
        return new NamedStem(id, value, members);
    }

    public NamedStem withMembers(List<ChannelId> value) {
        return new NamedStem(id, name, value);
    }
}
