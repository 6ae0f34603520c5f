package waterwheel.core.edit;

import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.function.UnaryOperator;
import waterwheel.core.errors.RoutingException;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.ProcessorKind;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.routing.RenderOrder;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Feed;
import waterwheel.core.session.Output;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Tap;
import waterwheel.core.session.Track;

/** The edits of what a channel's signal runs through and where it goes: inserts, sends, outputs, buses. */
public final class FlowEdits {
    private FlowEdits() {}

    // Inserts

    /** Adds an insert at the end of a channel's chain. */
    public static Edit addInsert(Channel channel, ProcessorKind kind) {
        Insert insert = Insert.of(freeSlot(channel), kind);
        return strip(kind.label() + " on " + channel.name(), channel, s -> {
            List<Insert> inserts = new ArrayList<>(s.inserts());
            inserts.add(insert);
            return s.withInserts(inserts);
        });
    }

    private static SlotId freeSlot(Channel channel) {
        List<String> taken =
                channel.strip().inserts().stream().map(i -> i.id().value()).toList();
        return new SlotId(Numbered.free("i", taken.size() + 1, taken));
    }

    /** Changes an insert. */
    public static Edit insert(Channel channel, SlotId slot, UnaryOperator<Insert> change) {
        String name = channel.strip().inserts().stream()
                .filter(i -> i.id().equals(slot))
                .findFirst()
                .map(i -> i.processor().kind().label())
                .orElse("Insert");
        return strip(
                name + " of " + channel.name(),
                channel,
                s -> s.withInserts(s.inserts().stream()
                        .map(i -> i.id().equals(slot) ? change.apply(i) : i)
                        .toList()));
    }

    /** Takes an insert out, and the sends that its key input had. */
    public static Edit removeInsert(Channel channel, SlotId slot) {
        Send.ToKey key = new Send.ToKey(channel.id(), slot);
        return new Edit("Insert taken out of " + channel.name(), session -> {
            Session out = session;
            for (Channel other : session.channels()) {
                out = out.withStrip(
                        other.id(),
                        s -> s.withSends(s.sends().stream()
                                .filter(send -> !send.target().equals(key))
                                .toList()));
            }
            out = out.withStrip(
                    channel.id(),
                    s -> s.withInserts(s.inserts().stream()
                            .filter(i -> !i.id().equals(slot))
                            .toList()));
            // A later insert in a slot of that name is another one.
            return out.withChannel(
                    channel.id(),
                    c -> c instanceof Track track && !track.clips().isEmpty()
                            ? track.withClips(track.clips().stream()
                                    .map(clip -> clip.withoutRides(new ControlId.OfInsert(slot)))
                                    .toList())
                            : c);
        });
    }

    /** Moves an insert up or down its chain, by one place. */
    public static Edit moveInsert(Channel channel, SlotId slot, int step) {
        return strip("Order of inserts of " + channel.name(), channel, s -> {
            List<Insert> inserts = new ArrayList<>(s.inserts());
            for (int i = 0; i < inserts.size(); i++) {
                int to = i + step;
                if (inserts.get(i).id().equals(slot) && to >= 0 && to < inserts.size()) {
                    Collections.swap(inserts, i, to);
                    break;
                }
            }
            return s.withInserts(inserts);
        });
    }

    // Sends and outputs

    /**
     * Adds a send.
     *
     * @throws RoutingException if that would close a loop; the message names every channel on it
     */
    public static Edit addSend(Session session, Channel channel, Send send) throws RoutingException {
        Channel target = session.channel(send.target().channel());
        Edit edit = strip("Send of " + channel.name() + " to " + target.name(), channel, s -> {
            List<Send> sends = new ArrayList<>(s.sends());
            sends.add(send);
            return s.withSends(sends);
        });
        if (channel.id().equals(session.mainId()) && send.target() instanceof Send.ToBus) {
            throw new RoutingException(
                    "'" + channel.name() + "' is the mix and feeds no bus.", "Choose another channel.");
        }
        return withoutLoop(session, channel, target, edit, "Choose a channel that does not come before it.");
    }

    /** Changes one of a channel's sends. */
    public static Edit send(Channel channel, int index, UnaryOperator<Send> change) {
        return strip("Send of " + channel.name(), channel, s -> {
            List<Send> sends = new ArrayList<>(s.sends());
            if (index < sends.size()) {
                sends.set(index, change.apply(sends.get(index)));
            }
            return s.withSends(sends);
        });
    }

    public static Edit removeSend(Channel channel, int index) {
        return strip("Send taken from " + channel.name(), channel, s -> {
            List<Send> sends = new ArrayList<>(s.sends());
            if (index < sends.size()) {
                sends.remove(index);
            }
            return s.withSends(sends);
        });
    }

    /** An edit that sends one channel to another, if no channel then comes before itself. */
    static Edit withoutLoop(Session session, Channel from, Channel to, Edit edit, String remedy)
            throws RoutingException {
        if (RenderOrder.of(edit.apply(session)) instanceof RenderOrder.Loop loop) {
            throw new RoutingException(
                    "Sending '" + from.name() + "' to '" + to.name() + "' would close a loop: " + loop.inWords(session)
                            + ".",
                    remedy);
        }
        return edit;
    }

    /**
     * Makes a bus and has channels feed it instead of what they fed; it feeds what the first of them did.
     *
     * @param members channels with an output, not the main bus
     */
    public static Edit busAround(List<Channel> members, String name) {
        return new Edit("New bus " + name, session -> {
            ChannelId id = freeId(session, "b");
            Output output = members.stream()
                    .map(c -> c.strip().output())
                    .filter(Output.ToBus.class::isInstance)
                    .findFirst()
                    .orElse(Output.to(session.mainId()));
            List<Channel> channels = new ArrayList<>(session.channels());
            channels.add(channels.indexOf(session.main()), new Bus(id, freeName(session, name), Strip.unity(output)));
            Session out = session.withChannels(channels);
            for (Channel member : members) {
                if (!member.id().equals(session.mainId())) {
                    out = out.withStrip(member.id(), s -> s.withOutput(Output.to(id)));
                }
            }
            return out;
        });
    }

    /** Makes a bus for an effect, fed by sends alone. */
    public static Edit addReturn(String name) {
        return busAround(List.of(), name);
    }

    /** Takes a bus away: what fed it feeds what it fed, and sends to it go. */
    public static Edit removeBus(Bus bus) {
        return new Edit("Removal of bus " + bus.name(), session -> {
            if (bus.id().equals(session.mainId())) {
                return session;
            }
            List<Channel> channels = new ArrayList<>();
            for (Channel channel : session.channels()) {
                if (!channel.id().equals(bus.id())) {
                    Channel kept = channel instanceof Track track
                                    && track.tap()
                                            .filter(t -> t.channel().equals(bus.id()))
                                            .isPresent()
                            ? track.withFeed(Feed.none())
                            : channel;
                    channels.add(kept.withStrip(without(channel.strip(), bus)));
                }
            }
            return Groups.without(session, bus.id()).withChannels(channels);
        });
    }

    private static Strip without(Strip strip, Bus bus) {
        Output output = strip.output().equals(Output.to(bus.id())) ? bus.strip().output() : strip.output();
        return strip.withOutput(output)
                .withExtraOutputs(without(strip.extraOutputs(), bus.id()))
                .withSends(strip.sends().stream()
                        .filter(send -> !send.target().channel().equals(bus.id()))
                        .toList());
    }

    static List<ChannelId> without(List<ChannelId> ids, ChannelId gone) {
        return ids.stream().filter(id -> !id.equals(gone)).toList();
    }

    /** Makes a track that takes its signal from a channel; it feeds what the channel feeds, or nothing where that is the mix. */
    public static Edit addTapped(Channel from, Tap.Point point) {
        return new Edit("New track from " + from.name(), session -> {
            ChannelId id = freeId(session, "t");
            Output output = from.strip().output();
            if (!(output instanceof Output.ToBus)) {
                output = from.id().equals(session.mainId()) ? new Output.Nowhere() : Output.to(session.mainId());
            }
            Track track = new Track(
                            id,
                            freeName(session, from.name() + " tapped"),
                            from instanceof Track t && !t.cue() ? t.kind() : Track.Kind.SUSTAINED,
                            from.planes(),
                            List.of(),
                            Strip.unity(output))
                    .withFeed(new Feed.Tapped(new Tap(from.id(), point)));
            return beside(session, from, track);
        });
    }

    /** The session with one more track: behind another one, or behind all tracks where that is a bus. */
    public static Session beside(Session session, Channel channel, Track added) {
        List<Channel> channels = new ArrayList<>(session.channels());
        channels.add(
                channel instanceof Track
                        ? channels.indexOf(channel) + 1
                        : session.tracks().size(),
                added);
        return session.withChannels(channels);
    }

    /** Adds or takes away one of a channel's outputs at unity beside its first. */
    public static Edit extraOutput(Session session, Channel channel, Bus bus, boolean on) throws RoutingException {
        Edit edit = strip(
                "Extra output of " + channel.name() + " to " + bus.name(),
                channel,
                s -> s.withExtraOutputs(toggled(s.extraOutputs(), bus.id(), on)));
        return on ? withoutLoop(session, channel, bus, edit, "Choose a bus that does not come before it.") : edit;
    }

    static List<ChannelId> toggled(List<ChannelId> ids, ChannelId id, boolean in) {
        List<ChannelId> changed = new ArrayList<>(without(ids, id));
        if (in) {
            changed.add(id);
        }
        return changed;
    }

    private static Edit strip(String name, Channel channel, UnaryOperator<Strip> change) {
        return new Edit(name, session -> session.withStrip(channel.id(), change));
    }

    /** An id that no channel, VCA or group has. */
    public static ChannelId freeId(Session session, String prefix) {
        Set<String> taken = new HashSet<>();
        session.everyChannel().forEach(c -> taken.add(c.id().value()));
        session.vcas().forEach(v -> taken.add(v.id().value()));
        session.links().forEach(l -> taken.add(l.id().value()));
        session.stems().named().forEach(s -> taken.add(s.id().value()));
        return new ChannelId(Numbered.free(prefix, 1, taken));
    }

    /** A name that no channel has: the wanted one, or with a number behind it. */
    public static String freeName(Session session, String wanted) {
        return free(wanted, session.channels().stream().map(Channel::name).toList());
    }

    static String free(String wanted, List<String> taken) {
        return taken.contains(wanted) ? Numbered.free(wanted + " ", 2, taken) : wanted;
    }
}
