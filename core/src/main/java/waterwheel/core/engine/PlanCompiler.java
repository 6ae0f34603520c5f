package waterwheel.core.engine;

import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.instruments.Performance;
import waterwheel.core.path.Branch;
import waterwheel.core.path.ChannelPath;
import waterwheel.core.path.ChannelPaths;
import waterwheel.core.path.GainMatrix;
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
import waterwheel.core.session.Clip;
import waterwheel.core.session.ClipRides;
import waterwheel.core.session.Feed;
import waterwheel.core.session.Freeze;
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

    /** Whether the plan's shape must not hang on values that move while it is played. */
    private final boolean played;

    private final LoopSignals loops;
    /** The channels whose frozen sound is played. */
    private final Set<ChannelId> frozen;

    private final PlanBuilder plan;

    /** What is heard: of a stem, the share of its tracks in every bus. */
    private final Layer heard = new Layer();
    /** The whole session, to which keys and taps listen in every stem alike; what is heard, where all of it is. */
    private final Layer whole;
    /** The buses that a key or a tap hears, with all that they are made of. */
    private final Set<ChannelId> listenedTo;

    private final Map<KeyInput, List<Input>> keyInputs = new HashMap<>();
    private final Map<KeyInput, Integer> keySums = new HashMap<>();
    /** What processors of {@link #sharing} hear of the whole session. */
    private final Map<KeyInput, Integer> shared = new HashMap<>();

    private final Map<Integer, List<Input>> pairInputs = new TreeMap<>();
    /** By channel how far it has come; of the whole session. */
    private final Map<ChannelId, Way> ways = new HashMap<>();

    /** Signals of their own behind placements and moving gains, by what they are. */
    private final Map<SignalId, Integer> apart = new HashMap<>();

    private final List<Signal.Edge> cues = new ArrayList<>();

    /** What feeds the buses. */
    private static final class Layer {
        private final Map<ChannelId, List<Input>> busInputs = new HashMap<>();

        void connect(ChannelId bus, ChannelId from, Signal.Edge edge) {
            busInputs.computeIfAbsent(bus, id -> new ArrayList<>()).add(new Input(from, edge));
        }
    }

    /** What feeds a sum: its edge, and the channel that it comes from. */
    private record Input(ChannelId from, Signal.Edge edge) {}

    /** The key input of an insert. */
    private record KeyInput(ChannelId channel, SlotId slot) {}

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
        this.played = played;
        plan = new PlanBuilder(played);
        this.loops = new LoopSignals(
                plan,
                this.session,
                loops,
                played,
                of != null,
                (channel, at, motion, part, aside) -> moving(at, motion, ridden(channel, part, aside)));
        whole = of == null ? heard : new Layer();
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
        // Sums must add in session order, which the order of computation need not be: so inputs are sorted after.
        Map<ChannelId, Integer> place = new HashMap<>();
        session.channels().forEach(c -> place.put(c.id(), place.size()));
        for (ChannelId id : order) {
            switch (session.channel(id)) {
                case Track track -> addTrack(track);
                case Bus bus -> {
                    if (listenedTo.contains(id)) {
                        addBus(bus, whole, place);
                    }
                    if (wholeReturns.contains(id)) {
                        Way way = Objects.requireNonNull(ways.get(id), "the whole return");
                        connectOutputs(bus, way, heard, 1);
                        connectSends(bus, way, heard, 1);
                    } else if (!otherReturns.contains(id)) {
                        addBus(bus, heard, place);
                    }
                }
            }
        }
        addMonitor();
        pairInputs.forEach((pair, inputs) ->
                plan.addSum(new SignalId(session.mainId(), SignalId.Point.PAIR, "" + pair), 2, sorted(inputs, place)));
        return plan.build(session.sampleRateHz(), session.lengthFrames());
    }

    private void addTrack(Track track) {
        int source = frozen.contains(track.id()) ? addFrozen(track) : addFeed(track);
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

    /** What comes in is heard while one works; a render knows only what was recorded. */
    private int addInput(SignalId id, Track track, Feed.Input input) {
        if (!played) {
            return addClips(id, track);
        }
        int recorded = addClips(new SignalId(track.id(), SignalId.Point.RECORDED), track);
        SignalId in = new SignalId(track.id(), SignalId.Point.INCOMING);
        int incoming = plan.add(new Signal.Incoming(in, track.planes(), input.port()), 0, false);
        return plan.add(new Signal.Listened(id, track.planes(), recorded, incoming, input.listen()), 0, false);
    }

    private int addFeed(Track track) {
        SignalId id = new SignalId(track.id(), SignalId.Point.SOURCE);
        return switch (track.feed()) {
            case Feed.Clips _ -> addClips(id, track);
            case Feed.Tapped(Tap tap) -> addTap(id, track, tap);
            case Feed.Input input -> addInput(id, track, input);
            case Feed.Played _, Feed.Output _ -> addPerformance(id, track);
        };
    }

    private int addPerformance(SignalId id, Track track) {
        Optional<Feed.Played> played = session.performance(track);
        if (played.isEmpty()) {
            return plan.add(new Signal.Source(id, track.planes(), List.of()), 0, false);
        }
        Feed.Played what = played.get();
        Performance performance = new Performance(what.instrument(), what.notes(), what.output());
        ChannelId player = track.feed() instanceof Feed.Output output ? output.player() : track.id();
        return plan.add(new Signal.Played(id, track.planes(), performance, player), 0, false);
    }

    /** A channel's sound up to some slot, as it was rendered: on the song's line, held up by nothing. */
    private int addFrozen(Channel channel) {
        Freeze freeze = channel.strip().freeze().orElseThrow();
        Clip clip = new Clip(
                freeze.source(),
                0,
                0,
                Math.max(1, session.source(freeze.source()).frames()),
                0);
        SignalId id = new SignalId(channel.id(), SignalId.Point.FROZEN);
        return plan.add(new Signal.Source(id, channel.planes(), List.of(clip)), 0, false);
    }

    private int addClips(SignalId id, Track track) {
        // A gain that all clips share is a gain on their sum, so that changing it measures nothing anew.
        double common = track.commonClipGainDb();
        List<Clip> clips = common == 0
                ? track.clips()
                : track.clips().stream().map(clip -> clip.withGainDb(0)).toList();
        if (clips.stream().anyMatch(clip -> clip.shaped() || clip.gainDb() != 0)) {
            List<Clip> bare = clips.stream().map(Clip::bare).toList();
            SignalId files = new SignalId(track.id(), SignalId.Point.FILES);
            int at = plan.add(new Signal.Source(files, track.planes(), bare), 0, false);
            plan.place(track.id(), Stage.SOURCE, "", Signal.Edge.straight(at, track.planes()));
        }
        return plan.add(new Signal.Source(id, track.planes(), clips), 0, false);
    }

    /** The signal that a track takes from another channel; the sum of both sides, halved, where only the track is mono. */
    private int addTap(SignalId id, Track track, Tap tap) {
        Way way = Objects.requireNonNull(ways.get(tap.channel()), "a channel before the track");
        Signal.Edge edge = tap.point() == Tap.Point.POST_FADER ? way.afterFader() : way.beforeFader();
        edge = through(edge, way.path().output(), new SignalId(id.channel(), SignalId.Point.RIDDEN, "tap"));
        int planes = edge.gain().toPlanes();
        if (track.planes() < planes) {
            edge = new Signal.Edge(edge.from(), edge.gain().folded());
        } else if (track.planes() > planes) {
            edge = edge.then(GainMatrix.toStereo(planes, 1));
        }
        return plan.addSum(id, track.planes(), edge);
    }

    private void addBus(Bus bus, Layer layer, Map<ChannelId, Integer> place) {
        boolean aside = layer != heard;
        int input = frozen.contains(bus.id()) && !aside
                ? addFrozen(bus)
                : plan.addSum(
                        new SignalId(bus.id(), SignalId.Point.INPUT, "", aside),
                        2,
                        sorted(layer.busInputs.getOrDefault(bus.id(), List.of()), place));
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

    /** Sums must add in session order, which the order of computation need not be. */
    private static List<Signal.Edge> sorted(List<Input> inputs, Map<ChannelId, Integer> place) {
        return inputs.stream()
                .sorted(Comparator.comparingInt(input -> place.getOrDefault(input.from(), 0)))
                .map(Input::edge)
                .toList();
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
                    through(at, gain, ridden(channel, step.stage().label(), aside));
                case Step.Slot slot -> throughInsert(channel, at, slot.insert(), aside);
            };
            String part = step instanceof Step.Slot slot ? slot.insert().id().value() : "";
            plan.note(channel.id(), aside, step.stage(), part, at);
        }
        Signal.Edge faded = through(at, path.fader(), ridden(channel, "Fader", aside));
        plan.note(channel.id(), aside, Stage.FADER, "", faded);
        SignalId id = new SignalId(channel.id(), SignalId.Point.PLACED, "", aside);
        Signal.Edge placed = through(faded, path.placement(), id);
        plan.note(channel.id(), aside, Stage.PLACEMENT, "", placed);
        Signal.Edge output = through(placed, path.output(), ridden(channel, "Output", aside));
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

    private static SignalId ridden(Channel channel, String part, boolean aside) {
        return new SignalId(channel.id(), SignalId.Point.RIDDEN, part, aside);
    }

    /**
     * An edge behind one more gain. Behind one that moves, and behind a placement that mixes sides, a signal of its own
     * begins.
     *
     * @param id of that signal
     */
    private Signal.Edge through(Signal.Edge at, Step.Gain step, SignalId id) {
        return switch (step) {
            case Step.Level level when level.stage() == Stage.PLACEMENT -> placed(at, level.gain(), id);
            case Step.Level level
            when level.stage() == Stage.OUTPUT -> at.times(level.gain().gain(0, 0));
            case Step.Level level -> at.then(level.gain());
            case Step.Moving(Stage _, Motion motion) -> moving(at, motion, id);
        };
    }

    private Signal.Edge moving(Signal.Edge at, Motion motion, SignalId id) {
        int planes = motion.gains() == 1 ? at.gain().toPlanes() : 2;
        Integer known = apart.get(id);
        if (known == null) {
            known = plan.add(new Signal.Ridden(id, planes, at, motion), plan.latency(at.from()), plan.silent(at));
            apart.put(id, known);
        }
        return Signal.Edge.straight(known, planes);
    }

    private Signal.Edge throughInsert(Channel channel, Signal.Edge before, Insert insert, boolean aside) {
        Signal.Edge edge = insert.rides()
                .active(Insert.INPUT.key())
                .map(ride -> moving(
                        before,
                        new Motion.Level(List.of(ride), 0, 1),
                        ridden(channel, "input " + insert.id().value(), aside)))
                .orElseGet(() -> before.times(Decibels.toFactor(insert.inputDb())));
        if (insert.processor().kind().loops()) {
            return loops.through(channel, before, edge, insert, aside);
        }
        OptionalInt key = keyOf(channel, insert);
        if (key.isEmpty() && sharing.contains(channel.id()) && sharesGain(insert)) {
            key = shared(channel, insert, edge, aside);
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

    /** What an insert hears of the whole session; the whole session's own hears that anyway. */
    private OptionalInt shared(Channel channel, Insert insert, Signal.Edge edge, boolean aside) {
        KeyInput input = new KeyInput(channel.id(), insert.id());
        if (aside) {
            SignalId id = new SignalId(
                    channel.id(), SignalId.Point.SHARED, insert.id().value(), true);
            shared.put(input, plan.addSum(id, channel.planes(), edge));
            return OptionalInt.empty();
        }
        return OptionalInt.of(Objects.requireNonNull(shared.get(input), "the whole session's bus before the stem's"));
    }

    /** What an insert listens to: the same in a stem as in the mix. A mono channel's hears half the sum of both sides. */
    private OptionalInt keyOf(Channel channel, Insert insert) {
        KeyInput input = new KeyInput(channel.id(), insert.id());
        List<Input> inputs = keyInputs.get(input);
        if (inputs == null || !insert.processor().kind().keyed()) {
            return OptionalInt.empty();
        }
        SignalId id = new SignalId(channel.id(), SignalId.Point.KEY, insert.id().value());
        Integer known = keySums.get(input);
        if (known == null) {
            known = plan.addSum(
                    id,
                    channel.planes(),
                    inputs.stream()
                            .map(Input::edge)
                            .map(edge -> channel.planes() == 1
                                    ? new Signal.Edge(edge.from(), edge.gain().folded())
                                    : edge)
                            .toList());
            keySums.put(input, known);
        }
        return OptionalInt.of(known);
    }

    /**
     * An edge into a stereo sum through a placement. One that mixes the channel's sides becomes a signal, so that its
     * level can be measured whether or not it sounds.
     *
     * @param id of that signal
     */
    private Signal.Edge placed(Signal.Edge before, GainMatrix placement, SignalId id) {
        Signal.Edge edge = before.then(placement);
        boolean alone = played ? placement.fromPlanes() == 2 : edge.gain().mixes();
        if (!alone) {
            return edge;
        }
        Integer known = apart.get(id);
        if (known == null) {
            known = plan.addSum(id, 2, edge);
            apart.put(id, known);
        }
        return Signal.Edge.straight(known, 2);
    }

    private void connectOutputs(Channel channel, Way way, Layer layer, double share) {
        Signal.Edge edge = way.output().times(share);
        Connections.outputs(channel).forEach(bus -> layer.connect(bus, channel.id(), edge));
        if (layer == heard && channel.strip().output() instanceof Output.ToInterface(int pair)) {
            pairInputs.computeIfAbsent(pair, any -> new ArrayList<>()).add(new Input(channel.id(), edge));
        }
    }

    private void connectSends(Channel channel, Way way, Layer layer, double share) {
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
                keyInputs
                        .computeIfAbsent(new KeyInput(to, slot), id -> new ArrayList<>())
                        .add(new Input(channel.id(), sent(channel, way, branch, whole != heard)));
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
            from = through(
                    from,
                    step,
                    placement
                            ? new SignalId(channel.id(), SignalId.Point.PLACED, "send " + branch.number(), whole)
                            : ridden(channel, "send " + branch.number() + " " + i, whole));
        }
        return from;
    }
}
