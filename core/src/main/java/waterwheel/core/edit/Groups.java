package waterwheel.core.edit;

import java.util.ArrayList;
import java.util.List;
import java.util.function.Predicate;
import waterwheel.core.session.Bond;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.LinkGroup;
import waterwheel.core.session.NamedStem;
import waterwheel.core.session.Session;
import waterwheel.core.session.Vca;

/** A channel's places in VCAs, link groups and named stems, taken and given back. */
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
        for (NamedStem stem : session.stems().named()) {
            if (stem.members().contains(id)) {
                all.add(new Bond.Member(stem.id(), id, false));
            }
        }
        return all;
    }

    /** The session in which no VCA, no link group and no named stem knows a channel. */
    public static Session without(Session session, ChannelId id) {
        return changed(session, any -> true, id, false, false);
    }

    /** The session in which no VCA knows a channel. */
    public static Session withoutVcas(Session session, ChannelId id) {
        return changed(session, group -> session.findVca(group).isPresent(), id, false, false);
    }

    /** The session in which a channel is a member just where it was; of groups that are gone nothing is said. */
    static Session as(Session session, ChannelId id, List<Bond.Member> places) {
        Session out = session;
        List<Bond.Member> now = of(session, id);
        for (Bond.Member one : now) {
            if (places.stream().noneMatch(place -> place.group().equals(one.group()))) {
                out = changed(out, one.group()::equals, id, false, false);
            }
        }
        for (Bond.Member place : places) {
            out = now.contains(place) ? out : with(out, place);
        }
        return out;
    }

    /** The session with a place as it was; the same one where the group or the channel is gone. */
    public static Session with(Session session, Bond.Member place) {
        return session.find(place.member()).isEmpty()
                ? session
                : changed(session, place.group()::equals, place.member(), true, place.exempt());
    }

    /** The session in which a channel is in some groups, or is not; exempt or not. */
    private static Session changed(
            Session session, Predicate<ChannelId> groups, ChannelId id, boolean in, boolean exempt) {
        List<Vca> vcas = session.vcas().stream()
                .map(vca -> groups.test(vca.id())
                        ? vca.withMembers(FlowEdits.toggled(vca.members(), id, in))
                                .withExempt(FlowEdits.toggled(vca.exempt(), id, exempt))
                        : vca)
                .toList();
        List<LinkGroup> links = session.links().stream()
                .map(link -> groups.test(link.id())
                        ? link.withMembers(FlowEdits.toggled(link.members(), id, in))
                                .withExempt(FlowEdits.toggled(link.exempt(), id, exempt))
                        : link)
                .toList();
        List<NamedStem> stems = session.stems().named().stream()
                .map(stem ->
                        groups.test(stem.id()) ? stem.withMembers(FlowEdits.toggled(stem.members(), id, in)) : stem)
                .toList();
        return session.withVcas(vcas).withLinks(links).withStems(session.stems().withNamed(stems));
    }
}
