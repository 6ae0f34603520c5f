package waterwheel.core.edit;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;
import waterwheel.core.errors.RoutingException;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.LinkGroup;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Vca;

/** The edits of what moves several channels' controls: VCAs and link groups. */
public final class GroupEdits {
    private GroupEdits() {}

    // VCAs

    /** Makes a VCA over channels. */
    public static Edit addVca(String name, List<ChannelId> members) {
        return new Edit("New VCA " + name, session -> {
            List<Vca> vcas = new ArrayList<>(session.vcas());
            List<String> taken = vcas.stream().map(Vca::name).toList();
            vcas.add(
                    new Vca(FlowEdits.freeId(session, "v"), FlowEdits.free(name, taken), 0, false, members, List.of()));
            return session.withVcas(vcas);
        });
    }

    /** Changes a VCA. */
    public static Edit vca(Vca vca, UnaryOperator<Vca> change) {
        return new Edit(
                "VCA " + vca.name(),
                session -> session.withVcas(session.vcas().stream()
                        .map(v -> v.id().equals(vca.id()) ? change.apply(v) : v)
                        .toList()));
    }

    /** Sets a VCA's fader in dB, at most +12. */
    public static Edit vcaFader(Vca vca, double db) {
        return vca(vca, v -> v.withFaderDb(limited(db)));
    }

    /** Takes a VCA away; its members stand as if it were at 0 dB. */
    public static Edit removeVca(Vca vca) {
        return new Edit(
                "Removal of VCA " + vca.name(),
                session -> session.withVcas(session.vcas().stream()
                        .filter(v -> !v.id().equals(vca.id()))
                        .map(v -> v.withMembers(FlowEdits.without(v.members(), vca.id()))
                                .withExempt(FlowEdits.without(v.exempt(), vca.id())))
                        .toList()));
    }

    /**
     * Adds a VCA's value to its members' faders and sets it to 0 dB; the mix stays the same. What the highest fader has
     * no room for stays in the VCA.
     */
    public static Edit foldVca(Vca vca) {
        return new Edit("VCA " + vca.name() + " into its members", session -> {
            double folded = Math.min(vca.faderDb(), roomDb(session, vca));
            Session out = session;
            for (ChannelId member : vca.members()) {
                if (vca.moves(member)) {
                    Optional<Vca> below = session.findVca(member);
                    out = below.isPresent()
                            ? vca(below.get(), v -> v.withFaderDb(limited(v.faderDb() + folded)))
                                    .apply(out)
                            : out.withStrip(member, s -> s.withFaderDb(limited(s.faderDb() + folded)));
                }
            }
            double rest = folded == vca.faderDb() ? 0 : vca.faderDb() - folded;
            return vca(vca, v -> v.withFaderDb(rest)).apply(out);
        });
    }

    /** By how much all that a VCA moves directly can be raised, in dB. */
    private static double roomDb(Session session, Vca vca) {
        double highest = vca.members().stream()
                .filter(vca::moves)
                .mapToDouble(member -> session.findVca(member)
                        .map(Vca::faderDb)
                        .orElseGet(() -> session.channel(member).strip().faderDb()))
                .max()
                .orElse(Double.NEGATIVE_INFINITY);
        return Strip.FADER_TOP_DB - highest;
    }

    /** Puts a channel or another VCA under a VCA, or takes it out. */
    public static Edit vcaMember(Session session, Vca vca, ChannelId member, boolean in) throws RoutingException {
        List<ChannelId> members = new ArrayList<>(FlowEdits.without(vca.members(), member));
        if (in) {
            members.add(member);
        }
        Edit edit = new Edit("Members of VCA " + vca.name(), s -> vca(
                        vca, v -> v.withMembers(members).withExempt(FlowEdits.without(v.exempt(), member)))
                .apply(s));
        try {
            edit.apply(session);
        } catch (IllegalArgumentException e) {
            throw new RoutingException(
                    "'" + vca.name() + "' cannot be above itself.", "Choose a VCA that is not above it.");
        }
        return edit;
    }

    /** Has a VCA leave a member alone for the time being, or take it along again. */
    public static Edit vcaExempt(Vca vca, ChannelId member, boolean exempt) {
        return vca(vca, v -> v.withExempt(FlowEdits.toggled(v.exempt(), member, exempt)));
    }

    // Link groups

    /** Links the faders, mutes and solos of channels. */
    public static Edit addLink(String name, List<ChannelId> members) {
        return new Edit("New link group " + name, session -> {
            List<LinkGroup> links = new ArrayList<>(session.links());
            List<String> taken = links.stream().map(LinkGroup::name).toList();
            links.add(LinkGroup.of(FlowEdits.freeId(session, "l"), FlowEdits.free(name, taken), members));
            return session.withLinks(links);
        });
    }

    /** Changes a link group. */
    public static Edit link(LinkGroup group, UnaryOperator<LinkGroup> change) {
        return new Edit(
                "Link group " + group.name(),
                session -> session.withLinks(session.links().stream()
                        .map(l -> l.id().equals(group.id()) ? change.apply(l) : l)
                        .toList()));
    }

    /** Takes a link group away; its members stay where they are. */
    public static Edit removeLink(LinkGroup group) {
        return new Edit(
                "Removal of link group " + group.name(),
                session -> session.withLinks(session.links().stream()
                        .filter(l -> !l.id().equals(group.id()))
                        .toList()));
    }

    /** Links a channel with a group, or takes it out. */
    public static Edit linkMember(LinkGroup group, ChannelId member, boolean in) {
        return link(group, l -> l.withMembers(FlowEdits.toggled(l.members(), member, in))
                .withExempt(FlowEdits.without(l.exempt(), member)));
    }

    /** Has a link group leave a member alone for the time being, or take it along again. */
    public static Edit linkExempt(LinkGroup group, ChannelId member, boolean exempt) {
        return link(group, l -> l.withExempt(FlowEdits.toggled(l.exempt(), member, exempt)));
    }

    private static double limited(double db) {
        return Math.min(Strip.FADER_TOP_DB, db);
    }
}
