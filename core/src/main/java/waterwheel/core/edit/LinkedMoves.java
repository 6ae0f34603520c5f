package waterwheel.core.edit;

import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.LinkGroup;
import waterwheel.core.session.LinkGroup.Attribute;
import waterwheel.core.session.LinkGroup.Beyond;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;

/** Moves of controls that take the linked channels along. */
final class LinkedMoves {
    /** A linked fader here or below is silent. */
    private static final double BOTTOM_DB = -90;

    private LinkedMoves() {}

    /** The channels that move, with those that are linked to them, directly or over others; in order of finding. */
    static Set<ChannelId> with(Session session, Attribute attribute, Collection<ChannelId> movers) {
        Set<ChannelId> all = new LinkedHashSet<>(movers);
        boolean grew = true;
        while (grew) {
            grew = false;
            for (LinkGroup link : session.links()) {
                if (all.stream().anyMatch(id -> link.moves(id, attribute))) {
                    grew |= all.addAll(link.members().stream()
                            .filter(id -> link.moves(id, attribute))
                            .toList());
                }
            }
        }
        return all;
    }

    /** Sets a fader or trim in dB; linked ones move by as much. */
    static Session to(Session session, Attribute attribute, ChannelId mover, double db) {
        return to(session, attribute, List.of(mover), mover, db);
    }

    /**
     * Sets a fader or trim in dB. What is linked to it keeps its distance from where it would stand; the others move by as
     * much as it is seen to move. From or to silence there is no such distance, and the others are set too.
     *
     * @param movers the one that is set among them
     */
    static Session to(Session session, Attribute attribute, Collection<ChannelId> movers, ChannelId mover, double db) {
        double standing = standing(session, attribute, mover);
        double shown = shown(session, attribute, mover);
        boolean linked = linked(session, attribute, mover);
        Session out = Double.isInfinite(standing) || (Double.isInfinite(db) && !linked)
                ? set(session, attribute, mover, db)
                : by(session, attribute, List.of(mover), (linked ? Math.max(db, BOTTOM_DB) : db) - standing);
        Set<ChannelId> others = new LinkedHashSet<>(movers);
        others.removeAll(with(session, attribute, List.of(mover)));
        if (Double.isFinite(db - shown)) {
            return by(out, attribute, others, db - shown);
        }
        for (ChannelId id : others) {
            out = set(out, attribute, id, db);
        }
        return out;
    }

    /** Moves faders or trims, with the linked ones each once, by as many dB. */
    static Session by(Session session, Attribute attribute, Collection<ChannelId> movers, double db) {
        Session out = session;
        for (ChannelId id : with(session, attribute, movers)) {
            double wanted = standing(session, attribute, id) + db;
            out = set(out, attribute, id, wanted);
            out = remember(out, attribute, id, wanted);
        }
        return out;
    }

    /** Mutes or solos channels, with the linked ones, or ends that. */
    static Session flag(Session session, Attribute attribute, ChannelId mover, boolean value) {
        Session out = session;
        for (ChannelId id : with(session, attribute, List.of(mover))) {
            out = out.withStrip(
                    id, strip -> attribute == Attribute.MUTE ? strip.withMuted(value) : strip.withSoloed(value));
        }
        return out;
    }

    /** Where a control stands, or would if its travel did not end; in dB. */
    private static double standing(Session session, Attribute attribute, ChannelId id) {
        double shown = shown(session, attribute, id);
        return session.links().stream()
                .filter(link -> link.moves(id, attribute))
                .flatMap(link -> link.beyond().stream())
                .filter(one -> one.member().equals(id) && one.attribute() == attribute)
                // One that was moved by itself since then is no longer beyond its end.
                .filter(one -> limited(attribute, one.db(), true) == shown)
                .mapToDouble(Beyond::db)
                .findFirst()
                .orElse(shown);
    }

    private static boolean linked(Session session, Attribute attribute, ChannelId id) {
        return session.links().stream().anyMatch(link -> link.moves(id, attribute));
    }

    private static double shown(Session session, Attribute attribute, ChannelId id) {
        Strip strip = session.channel(id).strip();
        return strip.standingDb(attribute == Attribute.FADER ? Strip.FADER : Strip.TRIM);
    }

    private static Session set(Session session, Attribute attribute, ChannelId id, double db) {
        boolean linked = linked(session, attribute, id);
        double value = limited(attribute, db, linked);
        return session.withStrip(
                id, strip -> strip.withStandingDb(attribute == Attribute.FADER ? Strip.FADER : Strip.TRIM, value));
    }

    private static double limited(Attribute attribute, double db, boolean linked) {
        if (attribute == Attribute.TRIM) {
            return Math.clamp(db, -Strip.TRIM_LIMIT_DB, Strip.TRIM_LIMIT_DB);
        }
        return linked && db <= BOTTOM_DB ? Double.NEGATIVE_INFINITY : Math.min(db, Strip.FADER_TOP_DB);
    }

    /** Keeps where a linked control would stand, if that lies beyond its end. */
    private static Session remember(Session session, Attribute attribute, ChannelId id, double wanted) {
        boolean past = Double.isFinite(wanted) && limited(attribute, wanted, true) != wanted;
        return session.withLinks(session.links().stream()
                .map(link -> {
                    if (!link.moves(id, attribute)) {
                        return link;
                    }
                    List<Beyond> beyond = new ArrayList<>(link.beyond());
                    beyond.removeIf(one -> one.member().equals(id) && one.attribute() == attribute);
                    if (past) {
                        beyond.add(new Beyond(id, attribute, wanted));
                    }
                    return link.withBeyond(beyond);
                })
                .toList());
    }
}
