package waterwheel.core.session;

import java.util.Collections;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;

/**
 * Channels whose controls move together, by as much. What a control cannot follow because its travel ends is remembered,
 * so that the distances are there again when it comes back.
 *
 * @param members channels, by id
 * @param exempt members that it leaves alone for the time being
 * @param attributes which of their controls move together; at least one
 * @param beyond where controls that reached the end of their travel would stand
 */
public record LinkGroup(
        ChannelId id,
        String name,
        List<ChannelId> members,
        List<ChannelId> exempt,
        Set<Attribute> attributes,
        List<Beyond> beyond) {
    /** A control that can be linked. */
    public enum Attribute {
        FADER("fader"),
        TRIM("trim"),
        MUTE("mute"),
        SOLO("solo");

        private final String label;

        Attribute(String label) {
            this.label = label;
        }

        /** The word on screen and in the session file. */
        public String label() {
            return label;
        }
    }

    /**
     * A control at the end of its travel.
     *
     * @param db where it would stand, finite
     */
    public record Beyond(ChannelId member, Attribute attribute, double db) {
        public Beyond {
            if (!Double.isFinite(db)) {
                throw new IllegalArgumentException("db: " + db + " (expected: a number)");
            }
        }
    }

    public LinkGroup {
        if (name.isBlank()) {
            throw new IllegalArgumentException("name: blank (expected: a name)");
        }
        if (attributes.isEmpty()) {
            throw new IllegalArgumentException("attributes: none (expected: at least one)");
        }
        members = List.copyOf(members);
        exempt = List.copyOf(exempt);
        // In the order of the constants, so that the same group is always written in the same way.
        attributes = Collections.unmodifiableSet(EnumSet.copyOf(attributes));
        beyond = List.copyOf(beyond);
    }

    /** A group that moves faders, mutes and solos. */
    public static LinkGroup of(ChannelId id, String name, List<ChannelId> members) {
        return new LinkGroup(
                id, name, members, List.of(), Set.of(Attribute.FADER, Attribute.MUTE, Attribute.SOLO), List.of());
    }

    /** Whether it moves a control of a channel. */
    public boolean moves(ChannelId member, Attribute attribute) {
        return attributes.contains(attribute) && members.contains(member) && !exempt.contains(member);
    }

    public LinkGroup withName(String value) {
        return new LinkGroup(id, value, members, exempt, attributes, beyond);
    }

    public LinkGroup withMembers(List<ChannelId> value) {
        return new LinkGroup(id, name, value, exempt, attributes, beyond);
    }

    public LinkGroup withExempt(List<ChannelId> value) {
        return new LinkGroup(id, name, members, value, attributes, beyond);
    }

    public LinkGroup withAttributes(Set<Attribute> value) {
        return new LinkGroup(id, name, members, exempt, value, beyond);
    }

    public LinkGroup withBeyond(List<Beyond> value) {
        return new LinkGroup(id, name, members, exempt, attributes, value);
    }
}
