package waterwheel.core.engine;

import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.OptionalInt;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.path.Branch;
import waterwheel.core.path.ChannelPath;
import waterwheel.core.path.ChannelPaths;
import waterwheel.core.path.Motion;
import waterwheel.core.path.Stage;
import waterwheel.core.path.Step;
import waterwheel.core.processing.Effects;
import waterwheel.core.processing.Processors;
import waterwheel.core.routing.Connections;
import waterwheel.core.routing.RenderOrder;
import waterwheel.core.routing.Wiring;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.ClipRides;
import waterwheel.core.session.Output;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.Tap;
import waterwheel.core.session.Track;
import waterwheel.core.units.Decibels;

/**
 * Turns a session into a plan. Constant gains that follow each other (polarity, trim, fader, mute, placement) become
 * one edge, so that a signal exists only where something is summed or processed. Muted and unsoloed channels keep their
 * edges, with gains of 0, so that the plan's shape does not change when they sound again. Where signals meet, the ones
 * that processors held up least are delayed, so that all arrive together.
 */
public final class PlanCompiler {
    private final Session session;
    private final ChannelPaths paths;
    private final Predicate<Track> included;
    /** The returns that are heard with all that is sent to them, though not all of that is included. */
    private final Set<ChannelId> wholeReturns;
    /** The returns that are heard elsewhere. */
    private final Set<ChannelId> otherReturns;
    /** The buses whose processors act on a part of the session as the whole asks them to. */
    private final Set<ChannelId> sharing;

    private final FeedSignals feeds;
    private final GainSignals gains;
    private final KeySignals keys;
    private final LoopSignals loops;
    /** The channels whose frozen sound is played. */
    private final Set<ChannelId> frozen;

    private final PlanBuilder plan;

    /** What is heard: of a stem, the share of its tracks in every bus. */
    private final SumInputs<ChannelId> heard;
    /** The whole session, to which keys and taps listen in every stem alike; what is heard, where all of it is. */
    private final SumInputs<ChannelId> whole;
    /** The buses that a key or a tap hears, with all that they are made of. */
    private final Set<ChannelId> listenedTo;

    /** What leaves through pairs of outputs. */
    private final SumInputs<Integer> pairs;
    /** By channel how far it has come; of the whole session. */
    private final Map<ChannelId, Way> ways = new HashMap<>();

    private final List<Signal.Edge> cues = new ArrayList<>();

    /** Where a channel's signal is found before its fader, behind it, and where it leaves. */
    private record Way(ChannelPath path, Signal.Edge beforeFader, Signal.Edge afterFader, Signal.Edge output) {}

    private PlanCompiler(Session session, @Nullable StemPart part, boolean played, LiveLoops loops) {
        this(session, part, played, loops, Set.of());
    }

    private PlanCompiler(
            Session session, @Nullable StemPart of, boolean played, LiveLoops loops, Set<ChannelId> frozen) {
        this.frozen = frozen;
        this.session = ClipRides.laid(session);
        this.paths = ChannelPaths.of(this.session);
        this.included = of == null ? track -> true : of.includes();
        wholeReturns = of == null ? Set.of() : of.returns();
        otherReturns = of == null ? Set.of() : of.otherReturns();
        plan = new PlanBuilder(played);
        gains = new GainSignals(plan, played);
        feeds = new FeedSignals(this.session, plan, played, this::tapped);
        keys = new KeySignals(plan);
        this.loops = new LoopSignals(plan, this.session, loops, played, of != null, gains);
        Map<ChannelId, Integer> places = new HashMap<>();
        session.channels().forEach(channel -> places.put(channel.id(), places.size()));
        heard = new SumInputs<>(places);
        whole = of == null ? heard : new SumInputs<>(places);
        pairs = new SumInputs<>(places);
        sharing = of == null || !of.sharesGain() ? Set.of() : sharing(session, of);
        listenedTo = of == null ? Set.of() : listenedTo(session, sharing, of.returns());
    }

    /** Where something is added to what is included, and turned by a gain that hangs on the sum. */
    private static Set<ChannelId> sharing(Session session, StemPart part) {
        Wiring wiring = Wiring.mixed(session);
        return session.buses().stream()
                .filter(bus -> bus.strip().activeInserts().stream().anyMatch(PlanCompiler::sharesGain))
                .map(Bus::id)
                .filter(bus -> {
                    Set<ChannelId> before = wiring.upstream(List.of(bus));
                    return !Collections.disjoint(before, part.returns())
                            || !Collections.disjoint(before, part.otherReturns())
                            || session.tracks().stream()
                                    .anyMatch(track -> before.contains(track.id())
                                            && !part.includes().test(track));
                })
                .collect(Collectors.toSet());
    }

    private static boolean sharesGain(Insert insert) {
        return Processors.of(insert.processor().kind()).sharesGain();
    }

    private static Set<ChannelId> listenedTo(Session session, Set<ChannelId> sharing, Set<ChannelId> returns) {
        Set<ChannelId> heard = new HashSet<>(sharing);
        heard.addAll(returns);
        for (Channel channel : session.channels()) {
            if (channel instanceof Track track) {
                track.tap().ifPresent(tap -> heard.add(tap.channel()));
            }
            boolean key =
                    channel.strip().sends().stream().anyMatch(s -> s.connects() && s.target() instanceof Send.ToKey);
            if (key) {
                heard.add(channel.id());
            }
        }
        return Wiring.computed(session).upstream(heard);
    }

    /**
     * Compiles the whole session.
     *
     * @throws IllegalArgumentException if the session has a feedback loop, which edits and loading refuse
     */
    public static Plan compile(Session session) {
        return new PlanCompiler(session, null, false, LiveLoops.NONE).run();
    }

    /**
     * Compiles a session in which only some tracks sound, for a stem. What inserts listen to at their key inputs, and
     * what tracks take from other channels, is as in the whole session.
     */
    public static Plan compile(Session session, StemPart part) {
        return new PlanCompiler(session, part, false, LiveLoops.NONE).run();
    }

    /**
     * Compiles a session to be played: whatever moves while it plays (faders, knobs, mutes, placements), plans of it have
     * the same shape.
     */
    public static Plan forPlayback(Session session, LiveLoops loops) {
        return forPlayback(session, loops, Set.of());
    }

    /** Compiles a session to be played, some of whose channels play what is frozen of them. */
    public static Plan forPlayback(Session session, LiveLoops loops, Set<ChannelId> frozen) {
        return new PlanCompiler(session, null, true, loops, frozen).run();
    }

    /** Compiles the whole session, some of whose channels play what is frozen of them. */
    public static Plan compile(Session session, Set<ChannelId> frozen) {
        return new PlanCompiler(session, null, false, LiveLoops.NONE, frozen).run();
    }

    /** Compiles a stem with some of its loops through an interface, to record what comes back of it. */
    public static Plan forCapture(Session session, StemPart part, LiveLoops loops) {
        return new PlanCompiler(session, part, false, loops).run();
    }

    /** Compiles the whole session with some of its loops through an interface, to record what comes back. */
    public static Plan forCapture(Session session, LiveLoops loops) {
        return new PlanCompiler(session, null, false, loops).run();
    }

    private Plan run() {
        List<ChannelId> order =
                switch (RenderOrder.of(session)) {
                    case RenderOrder.Ordered(List<ChannelId> channels) -> channels;
                    case RenderOrder.Loop loop ->
                        throw new IllegalArgumentException(
                                "session: " + loop.inWords(session) + " (expected: no feedback loop)");
                };
        for (ChannelId id : order) {
            switch (session.channel(id)) {
                case Track track -> addTrack(track);
                case Bus bus -> {
                    if (listenedTo.contains(id)) {
                        addBus(bus, whole);
                    }
                    if (wholeReturns.contains(id)) {
                        Way way = Objects.requireNonNull(ways.get(id), "the whole return");
                        connectOutputs(bus, way, heard, 1);
                        connectSends(bus, way, heard, 1);
                    } else if (!otherReturns.contains(id)) {
                        addBus(bus, heard);
                    }
                }
            }
        }
        addMonitor();
        pairs.sums().stream()
                .sorted()
                .forEach(pair ->
                        plan.addSum(new SignalId(session.mainId(), SignalId.Point.PAIR, "" + pair), 2, pairs.of(pair)));
        return plan.build(session.sampleRateHz(), session.lengthFrames());
    }

    private void addTrack(Track track) {
        int source = frozen.contains(track.id()) ? feeds.addFrozen(track) : feeds.add(track);
        double share = included.test(track) ? 1 : 0;
        Way way = way(track, source, false, Stage.SOURCE);
        ways.put(track.id(), way);
        if (track.cue()) {
            cues.add(way.output().times(share));
        } else {
            connectOutputs(track, way, heard, share);
            connectSends(track, way, heard, share);
            if (whole != heard) {
                connectOutputs(track, way, whole, 1);
                connectSends(track, way, whole, 1);
            }
        }
        connectKeys(track, way);
    }

    /** The edge from what a track takes of another channel. */
    private Signal.Edge tapped(Tap tap, SignalId id) {
        Way way = Objects.requireNonNull(ways.get(tap.channel()), "a channel before the track");
        Signal.Edge edge = tap.point() == Tap.Point.POST_FADER ? way.afterFader() : way.beforeFader();
        return gains.through(edge, way.path().output(), id);
    }

    private void addBus(Bus bus, SumInputs<ChannelId> layer) {
        boolean aside = layer != heard;
        int input = frozen.contains(bus.id()) && !aside
                ? feeds.addFrozen(bus)
                : plan.addSum(new SignalId(bus.id(), SignalId.Point.INPUT, "", aside), 2, layer.of(bus.id()));
        Way way = way(bus, input, aside, Stage.INPUT);
        if (layer == whole) {
            ways.put(bus.id(), way);
            connectKeys(bus, way);
        }
        if (!bus.id().equals(session.mainId())) {
            connectOutputs(bus, way, layer, 1);
            connectSends(bus, way, layer, 1);
        } else if (!aside) {
            plan.addSum(new SignalId(bus.id(), SignalId.Point.OUTPUT), 2, List.of(way.output()));
        }
    }

    private void addMonitor() {
        int output = plan.find(SignalId.Point.OUTPUT);
        List<Signal.Edge> inputs = new ArrayList<>();
        inputs.add(Signal.Edge.straight(output, 2));
        inputs.addAll(cues);
        plan.addSum(new SignalId(session.mainId(), SignalId.Point.MONITOR), 2, inputs);
    }

    /**
     * Goes a channel's way: gains that follow each other become one, and a signal of its own begins where something is
     * processed or mixed.
     *
     * @param aside whether it is a bus of the whole session in the plan of a stem
     */
    private Way way(Channel channel, int first, boolean aside, Stage feed) {
        ChannelPath path = paths.path(channel);
        Signal.Edge at = Signal.Edge.straight(first, channel.planes());
        boolean cold = frozen.contains(channel.id()) && !aside;
        if (!cold) {
            plan.note(channel.id(), aside, feed, "", at);
        }
        for (Step step : path.toFader()) {
            if (cold && isFrozen(channel, step)) {
                continue;
            }
            at = switch (step) {
                case Step.Gain gain ->
                    gains.through(
                            at, gain, GainSignals.ridden(channel, step.stage().label(), aside));
                case Step.Slot slot -> throughInsert(channel, at, slot.insert(), aside);
            };
            String part = step instanceof Step.Slot slot ? slot.insert().id().value() : "";
            plan.note(channel.id(), aside, step.stage(), part, at);
        }
        Signal.Edge faded = gains.through(at, path.fader(), GainSignals.ridden(channel, "Fader", aside));
        plan.note(channel.id(), aside, Stage.FADER, "", faded);
        SignalId id = new SignalId(channel.id(), SignalId.Point.PLACED, "", aside);
        Signal.Edge placed = gains.through(faded, path.placement(), id);
        plan.note(channel.id(), aside, Stage.PLACEMENT, "", placed);
        Signal.Edge output = gains.through(placed, path.output(), GainSignals.ridden(channel, "Output", aside));
        plan.note(channel.id(), aside, Stage.OUTPUT, "", output);
        return new Way(path, at, faded, output);
    }

    /** Whether a step is in the channel's frozen sound already. */
    private static boolean isFrozen(Channel channel, Step step) {
        return switch (step) {
            case Step.Gain _ -> true;
            case Step.Slot(Insert insert) -> channel.strip().frozenInserts().contains(insert);
        };
    }

    private Signal.Edge throughInsert(Channel channel, Signal.Edge before, Insert insert, boolean aside) {
        Signal.Edge edge = insert.rides()
                .active(Insert.INPUT.key())
                .map(ride -> gains.moving(
                        before,
                        new Motion.Level(List.of(ride), 0, 1),
                        GainSignals.ridden(channel, "input " + insert.id().value(), aside)))
                .orElseGet(() -> before.times(Decibels.toFactor(insert.inputDb())));
        if (insert.processor().kind().loops()) {
            return loops.through(channel, before, edge, insert, aside);
        }
        OptionalInt key = keys.key(channel, insert);
        if (key.isEmpty() && sharing.contains(channel.id()) && sharesGain(insert)) {
            // The whole session's own hears the whole session anyway.
            if (aside) {
                keys.share(channel, insert, edge);
            } else {
                key = OptionalInt.of(keys.shared(channel, insert));
            }
        }
        int latency = plan.latency(edge.from());
        if (key.isPresent()) {
            int together = Math.max(latency, plan.latency(key.getAsInt()));
            edge = plan.at(edge, together);
            key = OptionalInt.of(plan.at(Signal.Edge.straight(key.getAsInt(), channel.planes()), together)
                    .from());
            latency = together;
        }
        boolean silent = !Processors.of(insert.processor().kind()).sounds() && plan.silent(edge);
        SignalId id =
                new SignalId(channel.id(), SignalId.Point.INSERT, insert.id().value(), aside);
        int at = plan.add(
                new Signal.Processed(id, channel.planes(), edge, key, insert),
                latency + Effects.latencyFrames(insert.processor(), session.sampleRateHz()),
                silent);
        return Signal.Edge.straight(at, channel.planes());
    }

    private void connectOutputs(Channel channel, Way way, SumInputs<ChannelId> layer, double share) {
        Signal.Edge edge = way.output().times(share);
        Connections.outputs(channel).forEach(bus -> layer.connect(bus, channel.id(), edge));
        if (layer == heard && channel.strip().output() instanceof Output.ToInterface(int pair)) {
            pairs.connect(pair, channel.id(), edge);
        }
    }

    private void connectSends(Channel channel, Way way, SumInputs<ChannelId> layer, double share) {
        for (Branch branch : way.path().branches()) {
            if (branch.send().target() instanceof Send.ToBus(ChannelId bus)) {
                layer.connect(
                        bus,
                        channel.id(),
                        sent(channel, way, branch, layer != heard).times(share));
            }
        }
    }

    /** What listens hears the whole, whatever part of it a stem is. */
    private void connectKeys(Channel channel, Way way) {
        for (Branch branch : way.path().branches()) {
            if (branch.send().target() instanceof Send.ToKey(ChannelId to, SlotId slot)) {
                keys.send(to, slot, sent(channel, way, branch, whole != heard));
            }
        }
    }

    private Signal.Edge sent(Channel channel, Way way, Branch branch, boolean aside) {
        Signal.Edge from = branch.from() == Stage.FADER ? way.afterFader() : way.beforeFader();
        // A track's signals are the same in all layers.
        boolean whole = aside && channel instanceof Bus;
        for (int i = 0; i < branch.steps().size(); i++) {
            Step.Gain step = branch.steps().get(i);
            boolean placement = step.stage() == Stage.PLACEMENT;
            from = gains.through(
                    from,
                    step,
                    placement
                            ? new SignalId(channel.id(), SignalId.Point.PLACED, "send " + branch.number(), whole)
                            : GainSignals.ridden(channel, "send " + branch.number() + " " + i, whole));
        }
        return from;
    }
}
