package waterwheel.core.edit;

import java.util.ArrayList;
import java.util.List;
import waterwheel.core.session.Bond;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.LinkGroup;
import waterwheel.core.session.Session;
import waterwheel.core.session.Vca;

/** A channel's places in VCAs and link groups, taken and given back. */
public final class Groups {
    private Groups() {}

    /** Where a channel is a member. */
    public static List<Bond.Member> of(Session session, ChannelId id) {
        List<Bond.Member> all = new ArrayList<>();
        for (Vca vca : session.vcas()) {
            if (vca.members().contains(id)) {
                all.add(new Bond.Member(vca.id(), id, vca.exempt().contains(id)));
            }
        }
        for (LinkGroup link : session.links()) {
            if (link.members().contains(id)) {
                all.add(new Bond.Member(link.id(), id, link.exempt().contains(id)));
            }
        }
        return all;
    }

    /** The session in which no VCA and no link group knows a channel. */
    public static Session without(Session session, ChannelId id) {
        return withoutVcas(session, id)
                .withLinks(session.links().stream()
                        .map(link -> link.withMembers(FlowEdits.without(link.members(), id))
                                .withExempt(FlowEdits.without(link.exempt(), id)))
                        .toList());
    }

    /** The session in which no VCA knows a channel. */
    public static Session withoutVcas(Session session, ChannelId id) {
        return session.withVcas(session.vcas().stream()
                .map(vca -> vca.withMembers(FlowEdits.without(vca.members(), id))
                        .withExempt(FlowEdits.without(vca.exempt(), id)))
                .toList());
    }

    /** The session in which a channel is a member just where it was; of groups that are gone nothing is said. */
    static Session as(Session session, ChannelId id, List<Bond.Member> places) {
        Session out = session;
        List<Bond.Member> now = of(session, id);
        for (Bond.Member one : now) {
            if (places.stream().noneMatch(place -> place.group().equals(one.group()))) {
                out = without(out, one);
            }
        }
        for (Bond.Member place : places) {
            out = now.contains(place) ? out : with(out, place);
        }
        return out;
    }

    private static Session without(Session session, Bond.Member place) {
        ChannelId id = place.member();
        return session.withVcas(session.vcas().stream()
                        .map(vca -> vca.id().equals(place.group())
                                ? vca.withMembers(FlowEdits.without(vca.members(), id))
                                        .withExempt(FlowEdits.without(vca.exempt(), id))
                                : vca)
                        .toList())
                .withLinks(session.links().stream()
                        .map(link -> link.id().equals(place.group())
                                ? link.withMembers(FlowEdits.without(link.members(), id))
                                        .withExempt(FlowEdits.without(link.exempt(), id))
                                : link)
                        .toList());
    }

    /** The session with a place as it was; the same one where the group or the channel is gone. */
    public static Session with(Session session, Bond.Member place) {
        ChannelId id = place.member();
        if (session.find(id).isEmpty()) {
            return session;
        }
        return session.withVcas(session.vcas().stream()
                        .map(vca -> vca.id().equals(place.group())
                                ? vca.withMembers(FlowEdits.toggled(vca.members(), id, true))
                                        .withExempt(FlowEdits.toggled(vca.exempt(), id, place.exempt()))
                                : vca)
                        .toList())
                .withLinks(session.links().stream()
                        .map(link -> link.id().equals(place.group())
                                ? link.withMembers(FlowEdits.toggled(link.members(), id, true))
                                        .withExempt(FlowEdits.toggled(link.exempt(), id, place.exempt()))
                                : link)
                        .toList());
    }
}
