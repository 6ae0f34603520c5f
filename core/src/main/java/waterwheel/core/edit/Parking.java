package waterwheel.core.edit;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import waterwheel.core.errors.RoutingException;
import waterwheel.core.routing.RenderOrder;
import waterwheel.core.routing.Wiring;
import waterwheel.core.session.Bond;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Feed;
import waterwheel.core.session.Output;
import waterwheel.core.session.Parked;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;

/**
 * Puts one channel in another's place. What was there is parked with all that fed it and nothing else; it comes back in
 * the same way, and what stood in for it is parked in turn. Both have one id, so that taps and controllers go over to what
 * is in place; its places in VCAs and link groups each keeps for itself.
 */
public final class Parking {
    private final Session before;
    private final Channel old;
    private final Map<ChannelId, Channel> channels = new LinkedHashMap<>();
    private final List<Bond> bonds = new ArrayList<>();
    private final Set<ChannelId> cut = new HashSet<>();
    private final Set<ChannelId> along = new HashSet<>();

    private Parking(Session before, Channel old) {
        this.before = before;
        this.old = old;
        before.channels().forEach(channel -> channels.put(channel.id(), channel));
    }

    /** Brings a parked channel back to its place. */
    public static Edit bringBack(Session session, Parked parked) throws RoutingException {
        Edit edit = new Edit("Bring back " + parked.channel().name(), now -> restored(now, parked));
        Session after = edit.apply(session);
        if (RenderOrder.of(after) instanceof RenderOrder.Loop loop) {
            throw new RoutingException(
                    "Bringing back '" + parked.channel().name() + "' would close a loop: " + loop.inWords(after) + ".",
                    "Take one of these connections away first.");
        }
        return edit;
    }

    /** Lets a parked channel go; its files stay on disk. */
    public static Edit letGo(Parked parked) {
        return new Edit(
                "Let go of " + parked.channel().name(),
                session -> session.withParked(session.parked().stream()
                        .filter(one -> !one.equals(parked))
                        .toList()));
    }

    /**
     * A session in which a channel is in the place of the one of its id, which is parked.
     *
     * @param by what it refers to must be there
     */
    public static Session replaced(Session session, Channel by) {
        return new Parking(session, session.channel(by.id())).replaced(by);
    }

    private Session replaced(Channel by) {
        channels.put(by.id(), by);
        cutTo(by.id(), by);
        // What fed it and nothing else, and what fed that, is not heard any more.
        List<ChannelId> upstream = List.copyOf(Wiring.mixed(before).upstream(List.of(by.id())));
        boolean more = by instanceof Track && old instanceof Bus;
        while (more) {
            more = false;
            for (ChannelId id : upstream) {
                Channel channel = channels.get(id);
                if (channel != null && cut.contains(id) && !heard(channel)) {
                    along.add(id);
                    channels.remove(id);
                    cutTo(id, null);
                    more = true;
                }
            }
        }
        List<Parked> parked = new ArrayList<>(before.parked());
        List<Parked.Along> put = new ArrayList<>();
        for (int place = 0; place < before.channels().size(); place++) {
            Channel channel = before.channels().get(place);
            if (along.contains(channel.id())) {
                put.add(new Parked.Along(place, channel));
            }
        }
        // What is put away keeps its own ends; only those that stay have lost theirs.
        bonds.removeIf(bond -> along.contains(from(bond)));
        Session without = withoutMembers();
        // Its own places, which what stands in for it need not keep.
        bonds.addAll(Groups.of(before, old.id()));
        parked.add(new Parked(old, put, bonds));
        return without.withChannels(List.copyOf(channels.values())).withParked(parked);
    }

    private static ChannelId from(Bond bond) {
        return switch (bond) {
            case Bond.Fed(ChannelId from, ChannelId _) -> from;
            case Bond.Extra(ChannelId from, ChannelId _) -> from;
            case Bond.Sent(ChannelId from, int _, Send _) -> from;
            case Bond.Member(ChannelId group, ChannelId _, boolean _) -> group;
        };
    }

    private boolean heard(Channel channel) {
        return channel.id().equals(before.mainId())
                || channel.cue()
                || !(channel.strip().output() instanceof Output.Nowhere)
                || !channel.strip().extraOutputs().isEmpty()
                || channel.strip().sends().stream().anyMatch(Send::connects)
                || channels.values().stream()
                        .anyMatch(one -> one instanceof Track track
                                && track.tap()
                                        .filter(tap -> tap.channel().equals(channel.id()))
                                        .isPresent());
    }

    /** Cuts what leads to a place that cannot take it any more. */
    private void cutTo(ChannelId to, @Nullable Channel now) {
        for (Channel channel : List.copyOf(channels.values())) {
            Strip strip = channel.strip();
            boolean bus = now instanceof Bus;
            if (!bus && strip.output().equals(Output.to(to))) {
                bonds.add(new Bond.Fed(channel.id(), to));
                strip = strip.withOutput(new Output.Nowhere());
            }
            if (!bus && strip.extraOutputs().contains(to)) {
                bonds.add(new Bond.Extra(channel.id(), to));
                strip = strip.withExtraOutputs(FlowEdits.without(strip.extraOutputs(), to));
            }
            List<Send> kept = new ArrayList<>();
            for (Send send : strip.sends()) {
                if (takes(now, send, to)) {
                    kept.add(send);
                } else {
                    bonds.add(new Bond.Sent(channel.id(), kept.size(), send));
                }
            }
            if (kept.size() < strip.sends().size()) {
                strip = strip.withSends(kept);
            }
            if (!strip.equals(channel.strip())) {
                cut.add(channel.id());
                channels.put(channel.id(), channel.withStrip(strip));
            }
        }
    }

    private static boolean takes(@Nullable Channel now, Send send, ChannelId to) {
        if (!send.target().channel().equals(to)) {
            return true;
        }
        return switch (send.target()) {
            case Send.ToBus _ -> now instanceof Bus;
            case Send.ToKey key ->
                now != null
                        && now.strip().inserts().stream()
                                .anyMatch(insert -> insert.id().equals(key.slot())
                                        && insert.processor().kind().keyed());
        };
    }

    /** VCAs and link groups forget what is put away with the channel; the channel's own place in them goes over. */
    private Session withoutMembers() {
        Session out = before;
        for (ChannelId id : along) {
            bonds.addAll(Groups.of(out, id));
            out = Groups.without(out, id);
        }
        return out;
    }

    private static Session restored(Session session, Parked parked) {
        if (!session.parked().contains(parked)) {
            return session;
        }
        Session out = letGo(parked).apply(session);
        Channel back = parked.channel();
        // First without what leads to channels that are not back yet.
        Channel bare = mended(out, back, known(out.channels(), List.of(back)));
        out = out.find(back.id()).isPresent() ? replaced(out, bare) : added(out, bare);
        List<Channel> whole = new ArrayList<>(out.channels());
        List<Channel> all = parked.along().stream().map(Parked.Along::channel).toList();
        Map<ChannelId, Channel> known = known(whole, all);
        for (Parked.Along one : parked.along()) {
            whole.add(Math.min(one.place(), whole.size()), mended(out, one.channel(), known));
        }
        whole.set(whole.indexOf(bare), mended(out, back, known));
        out = out.withChannels(whole);
        List<Bond.Member> own = new ArrayList<>();
        for (Bond bond : parked.bonds()) {
            if (bond instanceof Bond.Member member && member.member().equals(back.id())) {
                own.add(member);
            }
        }
        out = Groups.as(out, back.id(), own);
        // The last cut first, so that each finds its place as it left it.
        for (Bond bond : parked.bonds().reversed()) {
            out = bound(out, bond);
        }
        return out;
    }

    private static Session added(Session session, Channel channel) {
        List<Channel> all = new ArrayList<>(session.channels());
        all.add(all.indexOf(session.main()), channel);
        return session.withChannels(all);
    }

    private static Map<ChannelId, Channel> known(List<Channel> channels, List<Channel> more) {
        Map<ChannelId, Channel> known = new HashMap<>();
        channels.forEach(channel -> known.put(channel.id(), channel));
        more.forEach(channel -> known.put(channel.id(), channel));
        return known;
    }

    /** A channel that leads only to what is there: to the main bus instead of a bus that is gone. */
    private static Channel mended(Session session, Channel channel, Map<ChannelId, Channel> known) {
        Strip strip = channel.strip();
        if (strip.output() instanceof Output.ToBus(ChannelId bus) && !(known.get(bus) instanceof Bus)) {
            strip = strip.withOutput(Output.to(session.mainId()));
        }
        strip = strip.withExtraOutputs(strip.extraOutputs().stream()
                        .filter(bus -> known.get(bus) instanceof Bus)
                        .toList())
                .withSends(strip.sends().stream()
                        .filter(send -> takes(
                                known.get(send.target().channel()),
                                send,
                                send.target().channel()))
                        .toList());
        boolean lost = channel instanceof Track track
                && track.tap().filter(tap -> !known.containsKey(tap.channel())).isPresent();
        Channel fed = lost ? ((Track) channel).withFeed(Feed.none()) : channel;
        return fed.withStrip(strip);
    }

    /** A connection as it was, where both of its ends are there and nothing else took its place. */
    private static Session bound(Session session, Bond bond) {
        Optional<Channel> from = session.find(from(bond));
        return switch (bond) {
            case Bond.Fed(ChannelId id, ChannelId bus) ->
                isBus(session, bus)
                                && from.filter(c -> c.strip().output() instanceof Output.Nowhere)
                                        .isPresent()
                        ? session.withStrip(id, strip -> strip.withOutput(Output.to(bus)))
                        : session;
            case Bond.Extra(ChannelId id, ChannelId bus) ->
                isBus(session, bus) && from.isPresent()
                        ? session.withStrip(
                                id, strip -> strip.withExtraOutputs(FlowEdits.toggled(strip.extraOutputs(), bus, true)))
                        : session;
            case Bond.Sent(ChannelId id, int place, Send send) ->
                from.isPresent()
                                && takes(
                                        session.find(send.target().channel()).orElse(null),
                                        send,
                                        send.target().channel())
                        ? session.withStrip(id, strip -> {
                            List<Send> sends = new ArrayList<>(strip.sends());
                            sends.add(Math.min(place, sends.size()), send);
                            return strip.withSends(sends);
                        })
                        : session;
            case Bond.Member member -> Groups.with(session, member);
        };
    }

    private static boolean isBus(Session session, ChannelId id) {
        return session.find(id).filter(Bus.class::isInstance).isPresent();
    }
}
