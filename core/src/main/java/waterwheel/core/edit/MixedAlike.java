package waterwheel.core.edit;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import waterwheel.core.errors.RoutingException;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.Processor;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.rack.Loop;
import waterwheel.core.rides.Rides;
import waterwheel.core.routing.RenderOrder;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Gains;
import waterwheel.core.session.LinkGroup;
import waterwheel.core.session.NamedStem;
import waterwheel.core.session.Output;
import waterwheel.core.session.Routing;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.StemDivision;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Switches;
import waterwheel.core.session.Track;
import waterwheel.core.session.Vca;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.sources.SourceId;
import waterwheel.core.units.PlainName;

/**
 * One session's flow laid over another: buses and returns, VCAs and link groups, inserts, sends, faders, placements, pan
 * law, what is staged to, and how the mix is divided into stems; not its audio, nor the trims, which belong to a recording. Channels are matched by name, of
 * several the one of the same kind; what has no match stays as it is.
 *
 * @param before the session that it is laid over
 * @param after what that becomes
 * @param matched how many of its tracks have a counterpart
 * @param unmatched names of tracks that have none, and stay as they are
 * @param wanting names of tracks of the model that have no counterpart
 */
public record MixedAlike(Session before, Session after, int matched, List<String> unmatched, List<String> wanting) {
    public MixedAlike {
        unmatched = List.copyOf(unmatched);
        wanting = List.copyOf(wanting);
    }

    /**
     * Lays a session's flow over another's.
     *
     * @param modelFolder where responses of reverbs are found that the other session has not
     * @param rides whether the model's curves are taken too, frame by frame
     * @throws RoutingException if the two flows together would close a loop
     */
    public static MixedAlike of(Session model, Path modelFolder, Session other, boolean rides) throws RoutingException {
        return new Laid(model, modelFolder, other, rides).over();
    }

    /** Takes it, in one step. */
    public Edit edit() {
        return new Edit("Mixed alike", session -> session.equals(before) ? after : session);
    }

    /** The channels that would be new, or mixed otherwise. */
    public Set<ChannelId> changed() {
        return after.channels().stream()
                .filter(channel -> !before.find(channel.id()).equals(Optional.of(channel)))
                .map(Channel::id)
                .collect(Collectors.toSet());
    }

    /** What would change, a sentence each. */
    public List<String> sentences() {
        return FlowDifference.of(before, after);
    }

    /** The work of laying one over the other. */
    private static final class Laid {
        private final Session model;
        private final Path modelFolder;
        private final Session other;
        private final boolean rides;
        /** From the model's ids to the other's. */
        private final Map<ChannelId, ChannelId> counterparts = new LinkedHashMap<>();

        private final List<AudioSource> added = new ArrayList<>();
        private final Set<ChannelId> taken = new HashSet<>();

        Laid(Session model, Path modelFolder, Session other, boolean rides) {
            this.model = model;
            this.modelFolder = modelFolder;
            this.other = other;
            this.rides = rides;
            other.channels().forEach(channel -> taken.add(channel.id()));
            other.vcas().forEach(vca -> taken.add(vca.id()));
            other.links().forEach(link -> taken.add(link.id()));
            other.stems().named().forEach(stem -> taken.add(stem.id()));
            other.parked().forEach(parked -> taken.add(parked.channel().id()));
            other.parked().forEach(parked -> parked.along()
                    .forEach(along -> taken.add(along.channel().id())));
        }

        MixedAlike over() throws RoutingException {
            counterparts.put(model.mainId(), other.mainId());
            match(model.tracks(), other.tracks());
            match(
                    model.buses().stream()
                            .filter(bus -> !bus.id().equals(model.mainId()))
                            .toList(),
                    other.buses().stream()
                            .filter(bus -> !bus.id().equals(other.mainId()))
                            .toList());
            refuseFrozen();
            List<Bus> fresh = freshBuses();
            Map<ChannelId, Strip> strips = new HashMap<>();
            counterparts.forEach((from, to) ->
                    other.find(to).ifPresent(channel -> strips.put(to, strip(model.channel(from), channel.strip()))));
            List<Channel> channels = new ArrayList<>();
            for (Channel channel : other.channels()) {
                if (channel.id().equals(other.mainId())) {
                    channels.addAll(fresh);
                }
                channels.add(channel.withStrip(strips.getOrDefault(channel.id(), channel.strip())));
            }
            channels.replaceAll(channel -> channel.withStrip(withoutLostKeys(channel.strip(), channels)));
            Session after = new Session(
                    other.title(),
                    other.sampleRateHz(),
                    model.panLaw(),
                    model.nominalDbfs(),
                    Stream.concat(other.sources().stream(), added.stream()).toList(),
                    channels,
                    other.mainId(),
                    other.sections(),
                    model.staging(),
                    vcas(),
                    links(),
                    other.assignments(),
                    other.rack(),
                    other.parked(),
                    stems());
            if (RenderOrder.of(after) instanceof RenderOrder.Loop loop) {
                throw new RoutingException(
                        "With the flow of " + model.title() + " " + other.title() + " would route in a loop: "
                                + loop.inWords(after) + ".",
                        "Take that connection out of the one or the other first.");
            }
            Set<ChannelId> found = Set.copyOf(counterparts.values());
            return new MixedAlike(
                    other,
                    after,
                    (int) other.tracks().stream()
                            .filter(track -> found.contains(track.id()))
                            .count(),
                    other.tracks().stream()
                            .filter(track -> !found.contains(track.id()))
                            .map(Track::name)
                            .toList(),
                    model.tracks().stream()
                            .filter(track -> !counterparts.containsKey(track.id()))
                            .map(Track::name)
                            .toList());
        }

        /** What is frozen holds slots that would be others. */
        private void refuseFrozen() throws RoutingException {
            for (ChannelId id : counterparts.values()) {
                Channel channel = other.channel(id);
                if (channel.strip().freeze().isPresent()) {
                    throw new RoutingException(
                            channel.name() + " in " + other.title() + " is frozen, and what lies before would change.",
                            "Unfreeze it first.");
                }
            }
        }

        /** Without sends to key inputs that are there no more. */
        private static Strip withoutLostKeys(Strip strip, List<Channel> channels) {
            return strip.withSends(strip.sends().stream()
                    .filter(send -> !(send.target() instanceof Send.ToKey(ChannelId to, SlotId slot))
                            || channels.stream()
                                    .filter(channel -> channel.id().equals(to))
                                    .flatMap(channel -> channel.strip().inserts().stream())
                                    .anyMatch(insert -> insert.id().equals(slot)
                                            && insert.processor().kind().keyed()))
                    .toList());
        }

        /** Each of the model's has at most one, and each of the other's is at most one's. */
        private <C extends Channel> void match(List<C> theirs, List<C> own) {
            List<C> left = new ArrayList<>(own);
            for (boolean alike : new boolean[] {true, false}) {
                for (C one : theirs) {
                    if (!counterparts.containsKey(one.id())) {
                        left.stream()
                                .filter(c -> PlainName.of(c.name()).equals(PlainName.of(one.name())))
                                .filter(c -> !alike || kind(c).equals(kind(one)))
                                .findFirst()
                                .ifPresent(found -> {
                                    counterparts.put(one.id(), found.id());
                                    left.remove(found);
                                });
                    }
                }
            }
        }

        private static Optional<Track.Kind> kind(Channel channel) {
            return channel instanceof Track track ? Optional.of(track.kind()) : Optional.empty();
        }

        /** The model's buses that the other session lacks. */
        private List<Bus> freshBuses() {
            List<Bus> lacking = model.buses().stream()
                    .filter(bus -> !counterparts.containsKey(bus.id()))
                    .toList();
            lacking.forEach(bus -> counterparts.put(bus.id(), free(bus.id())));
            return lacking.stream()
                    .map(bus -> new Bus(
                            counterparts.getOrDefault(bus.id(), bus.id()),
                            bus.name(),
                            strip(bus, Strip.unity(Output.to(other.mainId())))))
                    .toList();
        }

        private ChannelId free(ChannelId wanted) {
            ChannelId id = wanted;
            for (int i = 2; !taken.add(id); i++) {
                id = new ChannelId(wanted.value() + "-" + i);
            }
            return id;
        }

        /** A strip as the model has it, with what belongs to the recording. */
        private Strip strip(Channel theirs, Strip own) {
            Strip flow = theirs.strip();
            boolean bus = theirs instanceof Bus;
            Strip laid = own.with(new Gains(
                            bus ? flow.polarityInverted() : own.polarityInverted(),
                            bus ? flow.trimDb() : own.trimDb(),
                            flow.faderDb(),
                            flow.placement()))
                    .with(new Switches(flow.muted(), own.soloed(), flow.soloSafe()))
                    .withInserts(flow.inserts().stream()
                            .map(insert -> insert(insert, own))
                            .toList())
                    .with(new Routing(output(flow.output()), outputs(flow), sends(flow, own)));
            return rides ? laid.withRides(flow.rides()) : laid;
        }

        private Output output(Output theirs) {
            return theirs instanceof Output.ToBus(ChannelId bus)
                    ? Output.to(counterparts.getOrDefault(bus, other.mainId()))
                    : theirs;
        }

        private List<ChannelId> outputs(Strip flow) {
            return flow.extraOutputs().stream()
                    .flatMap(bus -> Optional.ofNullable(counterparts.get(bus)).stream())
                    .toList();
        }

        private List<Send> sends(Strip flow, Strip own) {
            return flow.sends().stream()
                    .flatMap(send -> send(send, own).stream())
                    .toList();
        }

        private Optional<Send> send(Send theirs, Strip own) {
            Optional<Send.Target> target = Optional.ofNullable(
                            counterparts.get(theirs.target().channel()))
                    .map(to -> switch (theirs.target()) {
                        case Send.ToBus _ -> new Send.ToBus(to);
                        case Send.ToKey(ChannelId _, SlotId slot) -> new Send.ToKey(to, slot);
                    });
            return target.map(to -> new Send(to, theirs.levelDb(), theirs.placement(), theirs.preFader(), theirs.on())
                    .withRides(
                            rides
                                    ? theirs.rides()
                                    : own.sends().stream()
                                            .filter(send -> send.target().equals(to))
                                            .findFirst()
                                            .map(Send::rides)
                                            .orElse(Rides.NONE)));
        }

        /**
         * A slot as the model has it. What is patched and captured of hardware is the session's own, and so are its
         * rides unless the model's are wished: they stay where the slot was there before.
         */
        private Insert insert(Insert theirs, Strip own) {
            Optional<Insert> was = own.inserts().stream()
                    .filter(insert -> insert.id().equals(theirs.id()))
                    .filter(insert ->
                            insert.processor().kind().equals(theirs.processor().kind()))
                    .findFirst();
            Processor processor = theirs.processor();
            if (processor.kind().loops()) {
                processor = processor.withLoop(
                        was.map(insert -> insert.processor().loop()).orElse(Loop.NONE));
            }
            if (processor.response().isPresent()) {
                processor = processor.withResponse(response(processor.response().get()));
            }
            Insert laid = theirs.withProcessor(processor);
            return rides ? laid : laid.withRides(was.map(Insert::rides).orElse(Rides.NONE));
        }

        /** A response that the other session has, or the model's own file, linked. */
        private SourceId response(SourceId theirs) {
            AudioSource source = model.source(theirs);
            Optional<SourceId> same = Stream.concat(other.sources().stream(), added.stream())
                    .filter(one ->
                            !source.contentHash().isEmpty() && one.contentHash().equals(source.contentHash()))
                    .map(AudioSource::id)
                    .findFirst();
            if (same.isPresent()) {
                return same.get();
            }
            Set<SourceId> ids = other.sourceIds();
            added.forEach(one -> ids.add(one.id()));
            SourceId id = SourceId.free(theirs.value(), ids);
            String path = modelFolder
                    .resolve(source.path())
                    .toAbsolutePath()
                    .normalize()
                    .toString();
            added.add(new AudioSource(
                    id,
                    path,
                    source.frames(),
                    source.channels(),
                    source.sampleRateHz(),
                    source.encoding(),
                    source.contentHash(),
                    source.modifiedMillis(),
                    source.flattening()));
            return id;
        }

        /** The model's VCAs in place of those of their names; the other's that the model has not stay. */
        private List<Vca> vcas() {
            Map<ChannelId, ChannelId> ids = named(model.vcas(), other.vcas(), Vca::id, Vca::name);
            Map<ChannelId, ChannelId> members = new HashMap<>(counterparts);
            members.putAll(ids);
            List<Vca> vcas = new ArrayList<>(other.vcas().stream()
                    .filter(vca -> !ids.containsValue(vca.id()))
                    .toList());
            for (Vca vca : model.vcas()) {
                vcas.add(new Vca(
                        members.getOrDefault(vca.id(), vca.id()),
                        vca.name(),
                        vca.faderDb(),
                        vca.muted(),
                        mapped(vca.members(), members),
                        mapped(vca.exempt(), members),
                        rides ? vca.rides() : ownRides(members.get(vca.id()))));
            }
            return vcas;
        }

        private Rides ownRides(@Nullable ChannelId vca) {
            return vca == null ? Rides.NONE : other.findVca(vca).map(Vca::rides).orElse(Rides.NONE);
        }

        private List<LinkGroup> links() {
            Map<ChannelId, ChannelId> ids = named(model.links(), other.links(), LinkGroup::id, LinkGroup::name);
            List<LinkGroup> links = new ArrayList<>(other.links().stream()
                    .filter(link -> !ids.containsValue(link.id()))
                    .toList());
            for (LinkGroup link : model.links()) {
                links.add(new LinkGroup(
                        ids.getOrDefault(link.id(), link.id()),
                        link.name(),
                        mapped(link.members(), counterparts),
                        mapped(link.exempt(), counterparts),
                        link.attributes(),
                        List.of()));
            }
            return links;
        }

        /** The model's division, with its named stems in place of those of their names; others of the other's stay. */
        private StemDivision stems() {
            Map<ChannelId, ChannelId> ids =
                    named(model.stems().named(), other.stems().named(), NamedStem::id, NamedStem::name);
            List<NamedStem> laid = model.stems().named().stream()
                    .map(stem -> new NamedStem(
                            ids.getOrDefault(stem.id(), stem.id()), stem.name(), mapped(stem.members(), counterparts)))
                    .toList();
            Set<ChannelId> placed =
                    laid.stream().flatMap(stem -> stem.members().stream()).collect(Collectors.toSet());
            List<NamedStem> all = new ArrayList<>();
            for (NamedStem own : other.stems().named()) {
                if (!ids.containsValue(own.id())) {
                    all.add(own.withMembers(own.members().stream()
                            .filter(member -> !placed.contains(member))
                            .toList()));
                }
            }
            all.addAll(laid);
            return model.stems().withNamed(all);
        }

        /** From the model's groups to the other's of the same name, or to a free id. */
        private <T> Map<ChannelId, ChannelId> named(
                List<T> theirs, List<T> own, Function<T, ChannelId> id, Function<T, String> name) {
            Map<ChannelId, ChannelId> ids = new LinkedHashMap<>();
            for (T group : theirs) {
                String wanted = PlainName.of(name.apply(group));
                ids.put(
                        id.apply(group),
                        own.stream()
                                .filter(one -> PlainName.of(name.apply(one)).equals(wanted))
                                .map(id)
                                .filter(one -> !ids.containsValue(one))
                                .findFirst()
                                .orElseGet(() -> free(id.apply(group))));
            }
            return ids;
        }

        private static List<ChannelId> mapped(List<ChannelId> members, Map<ChannelId, ChannelId> ids) {
            return members.stream()
                    .flatMap(member -> Optional.ofNullable(ids.get(member)).stream())
                    .toList();
        }
    }
}
