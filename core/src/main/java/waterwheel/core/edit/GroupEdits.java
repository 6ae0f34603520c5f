package waterwheel.core.edit;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Objects;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import waterwheel.core.errors.RoutingException;
import waterwheel.core.rides.Ride;
import waterwheel.core.routing.Faders;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
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
     * no room for stays in the VCA. Where more than one way leads from it to a channel, or one to a channel that it
     * leaves alone, the channel's own fader makes up for it; where that has no room, the value goes past the VCAs among
     * the members to the channels themselves.
     */
    public static Edit foldVca(Vca vca) {
        return new Edit("VCA " + vca.name() + " into its members", session -> {
            if (vca.rides().active(Strip.FADER.key()).isPresent()) {
                return curveFolded(
                        session, vca, vca.rides().active(Strip.FADER.key()).get());
            }
            List<Vca> below = vca.members().stream()
                    .filter(vca::moves)
                    .flatMap(member -> session.findVca(member).stream())
                    .toList();
            Session folded = folded(session, vca, below);
            return folded == null ? Objects.requireNonNull(folded(session, vca, List.of())) : folded;
        });
    }

    /** Adds what a VCA's ride says to the offsets of the faders that it moves, and leaves it at 0 dB without one. */
    private static Session curveFolded(Session session, Vca vca, Ride ride) {
        Session out = vca(vca, v -> v.withFaderDb(0).withRides(v.rides().without(Strip.FADER.key())))
                .apply(session);
        for (ChannelId id : Faders.of(session).movedBy(vca)) {
            ControlId fader = ControlId.ofStrip(id, Strip.FADER.key());
            Ride own =
                    Controls.ride(session, fader).filter(Ride::active).orElseGet(() -> Controls.still(session, fader));
            out = Controls.with(
                    out, fader, own.withOffsetCurve(own.offsetCurve().plus(ride.whole())));
        }
        return out;
    }

    /**
     * Folds a VCA.
     *
     * @param below the VCAs that its value is added to; every channel gets what it does not get through these
     * @return null where a channel has no room for that
     */
    private static @Nullable Session folded(Session session, Vca vca, List<Vca> below) {
        double highest = Stream.concat(
                        below.stream().map(Vca::faderDb),
                        Faders.of(session).movedBy(vca).stream()
                                .map(id -> session.channel(id).strip().standingDb(Strip.FADER)))
                .max(Comparator.naturalOrder())
                .orElse(Double.NEGATIVE_INFINITY);
        double folded = Math.min(vca.faderDb(), Strip.FADER_TOP_DB - highest);
        if (folded == Double.NEGATIVE_INFINITY && !below.isEmpty()) {
            // A channel that it leaves alone could not be brought back.
            return null;
        }
        double rest = folded == vca.faderDb() ? 0 : vca.faderDb() - folded;
        Session out = vca(vca, v -> v.withFaderDb(rest)).apply(session);
        for (Vca one : below) {
            out = vca(one, v -> v.withFaderDb(v.faderDb() + folded)).apply(out);
        }
        Faders before = Faders.of(session);
        Faders after = Faders.of(out);
        for (Channel channel : session.channels()) {
            double change = rounded(before.effectiveDb(channel) - after.effectiveDb(channel));
            double wanted = channel.strip().standingDb(Strip.FADER) + change;
            if (wanted > Strip.FADER_TOP_DB) {
                return null;
            }
            if (change != 0 && !Double.isNaN(change)) {
                out = out.withStrip(channel.id(), s -> s.withStandingDb(Strip.FADER, wanted));
            }
        }
        return out;
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

    /** Without what sums of decimals leave in the last places. */
    private static double rounded(double db) {
        return Double.isFinite(db) ? Math.rint(db * 1e9) / 1e9 : db;
    }
}
