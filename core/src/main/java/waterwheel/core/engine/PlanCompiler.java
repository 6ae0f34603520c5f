package waterwheel.core.engine;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.OptionalInt;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.processing.Effects;
import waterwheel.core.processing.Processors;
import waterwheel.core.routing.Audibility;
import waterwheel.core.routing.Connections;
import waterwheel.core.routing.Faders;
import waterwheel.core.routing.RenderOrder;
import waterwheel.core.routing.Wiring;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Clip;
import waterwheel.core.session.Output;
import waterwheel.core.session.Placement;
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
    private final Set<ChannelId> sounding;
    private final Faders faders;
    private final Predicate<Track> included;
    private final double outputGain;
    private final List<Signal> signals = new ArrayList<>();
    private final List<Integer> latencies = new ArrayList<>();
    /** Signals that nothing reaches; what they feed need not wait for them. */
    private final BitSet silent = new BitSet();

    /** What is heard: of a stem, the share of its tracks in every bus. */
    private final Layer heard = new Layer();
    /** The whole session, to which keys and taps listen in every stem alike; what is heard, where all of it is. */
    private final Layer whole;
    /** The buses that a key or a tap hears, with all that they are made of. */
    private final Set<ChannelId> listenedTo;

    private final Map<KeyInput, List<Input>> keyInputs = new HashMap<>();
    private final Map<KeyInput, Integer> keySums = new HashMap<>();
    private final Map<Integer, List<Input>> pairInputs = new TreeMap<>();
    /** By channel what leaves its inserts, with the gain that is left to be applied. */
    private final Map<ChannelId, Signal.Edge> chains = new HashMap<>();

    private final Map<Late, Integer> delayed = new HashMap<>();
    private final Map<SignalId, Integer> placedSums = new HashMap<>();
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

    /** A signal that is wanted later. */
    private record Late(int signal, int frames) {}

    private PlanCompiler(Session session, @Nullable Predicate<Track> included, double outputGain) {
        this.session = session;
        this.sounding = Audibility.sounding(session);
        this.faders = Faders.of(session);
        this.included = included == null ? track -> true : included;
        this.outputGain = outputGain;
        whole = included == null ? heard : new Layer();
        listenedTo = included == null ? Set.of() : listenedTo(session);
    }

    private static Set<ChannelId> listenedTo(Session session) {
        Set<ChannelId> heard = new HashSet<>();
        for (Channel channel : session.channels()) {
            if (channel instanceof Track track) {
                track.tap().ifPresent(tap -> heard.add(tap.channel()));
            }
            boolean key = channel.strip().sends().stream().anyMatch(s -> s.on() && s.target() instanceof Send.ToKey);
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
        return new PlanCompiler(session, null, 1).run();
    }

    /**
     * Compiles a session with a gain on its mix.
     *
     * @param outputGainDb gain after the main bus's fader and on the cues, in dB
     */
    public static Plan compile(Session session, double outputGainDb) {
        return new PlanCompiler(session, null, Decibels.toFactor(outputGainDb)).run();
    }

    /**
     * Compiles a session in which only some tracks sound, for a stem. What inserts listen to at their key inputs, and
     * what tracks take from other channels, is as in the whole session.
     *
     * @param outputGainDb gain after the main bus's fader and on the cues, in dB
     */
    public static Plan compile(Session session, Predicate<Track> included, double outputGainDb) {
        return new PlanCompiler(session, included, Decibels.toFactor(outputGainDb)).run();
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
                    addBus(bus, heard, place);
                }
            }
        }
        addMonitor();
        pairInputs.forEach((pair, inputs) ->
                addSum(new SignalId(session.mainId(), SignalId.Point.PAIR, "" + pair), 2, sorted(inputs, place)));
        return new Plan(session.sampleRateHz(), session.lengthFrames(), signals, latencies);
    }

    private void addTrack(Track track) {
        // A gain that all clips share is a gain on their sum, so that changing it measures nothing anew.
        double common = track.commonClipGainDb();
        List<Clip> clips = common == 0
                ? track.clips()
                : track.clips().stream().map(clip -> clip.withGainDb(0)).toList();
        if (clips.stream().anyMatch(clip -> clip.shaped() || clip.gainDb() != 0)) {
            add(
                    new Signal.Source(
                            new SignalId(track.id(), SignalId.Point.FILES),
                            track.planes(),
                            clips.stream().map(Clip::bare).toList()),
                    0);
        }
        SignalId id = new SignalId(track.id(), SignalId.Point.SOURCE);
        int source = track.tap().isPresent()
                ? addTap(id, track, track.tap().get())
                : add(new Signal.Source(id, track.planes(), clips), 0);
        double gain = included.test(track) ? 1 : 0;
        Signal.Edge chain = throughInserts(track, source, false);
        chains.put(track.id(), chain);
        Signal.Edge out = throughFader(track, chain, false);
        if (track.cue()) {
            cues.add(gated(out, gain * outputGain));
        } else {
            connectOutputs(track, out, heard, gain);
            connectSends(track, chain, heard, gain);
            if (whole != heard) {
                connectOutputs(track, out, whole, 1);
                connectSends(track, chain, whole, 1);
            }
        }
        connectKeys(track, chain);
    }

    /** The signal that a track takes from another channel; the sum of both sides, halved, where only the track is mono. */
    private int addTap(SignalId id, Track track, Tap tap) {
        Signal.Edge chain = Objects.requireNonNull(chains.get(tap.channel()), "a channel before the track");
        Channel from = session.channel(tap.channel());
        double gain = chain.gain().gain(0, 0)
                * (tap.point() == Tap.Point.POST_FADER ? StageGains.fader(faders, from) : 1)
                * (sounding.contains(from.id()) ? 1 : 0);
        double[][] matrix = new double[track.planes()][from.planes()];
        for (int p = 0; p < track.planes(); p++) {
            for (int q = 0; q < from.planes(); q++) {
                boolean folded = track.planes() < from.planes();
                matrix[p][q] = folded ? gain / 2 : p == q || from.planes() == 1 ? gain : 0;
            }
        }
        int at = add(
                new Signal.Sum(id, track.planes(), List.of(new Signal.Edge(chain.from(), GainMatrix.of(matrix)))),
                latencies.get(chain.from()));
        silent.set(at, gain == 0 || silent.get(chain.from()));
        return at;
    }

    private void addBus(Bus bus, Layer layer, Map<ChannelId, Integer> place) {
        boolean aside = layer != heard;
        int input = addSum(
                new SignalId(bus.id(), SignalId.Point.INPUT, "", aside),
                2,
                sorted(layer.busInputs.getOrDefault(bus.id(), List.of()), place));
        Signal.Edge chain = throughInserts(bus, input, aside);
        if (layer == whole) {
            chains.put(bus.id(), chain);
            connectKeys(bus, chain);
        }
        if (!bus.id().equals(session.mainId())) {
            connectOutputs(bus, throughFader(bus, chain, aside), layer, 1);
            connectSends(bus, chain, layer, 1);
        } else if (!aside) {
            Signal.Edge edge = gated(throughFader(bus, chain, false), outputGain);
            addSum(new SignalId(bus.id(), SignalId.Point.OUTPUT), 2, List.of(edge));
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
        int output = signals.indexOf(signals.stream()
                .filter(s -> s.id().point() == SignalId.Point.OUTPUT)
                .findFirst()
                .orElseThrow());
        List<Signal.Edge> inputs = new ArrayList<>();
        inputs.add(new Signal.Edge(output, GainMatrix.diagonal(2, 1)));
        inputs.addAll(cues);
        addSum(new SignalId(session.mainId(), SignalId.Point.MONITOR), 2, inputs);
    }

    /** Adds a sum at which all inputs arrive together. */
    private int addSum(SignalId id, int planes, List<Signal.Edge> inputs) {
        int latest = inputs.stream()
                .mapToInt(edge -> latencies.get(edge.from()))
                .max()
                .orElse(0);
        List<Signal.Edge> together = inputs.stream()
                .map(edge -> at(edge, latest))
                .map(edge -> silent.get(edge.from())
                        ? new Signal.Edge(edge.from(), edge.gain().times(0))
                        : edge)
                .toList();
        int added = add(new Signal.Sum(id, planes, together), latest);
        silent.set(added, together.stream().allMatch(edge -> edge.gain().silent()));
        return added;
    }

    /** The edge as it arrives at a latency, through a delay where it would come too early. */
    private Signal.Edge at(Signal.Edge edge, int latency) {
        int early = latency - latencies.get(edge.from());
        if (early == 0) {
            return edge;
        }
        Signal from = signals.get(edge.from());
        int late = delayed.computeIfAbsent(
                new Late(edge.from(), early),
                wanted -> add(
                        new Signal.Delayed(
                                new SignalId(
                                        from.id().channel(),
                                        SignalId.Point.DELAYED,
                                        from.id().point() + " " + from.id().part() + " " + early,
                                        from.id().whole()),
                                from.planes(),
                                edge.from(),
                                early),
                        latency));
        silent.set(late, silent.get(edge.from()));
        return new Signal.Edge(late, edge.gain());
    }

    /** Adds a channel's inserts; the edge that leaves them carries what gain is left to be applied. */
    private Signal.Edge throughInserts(Channel channel, int first, boolean aside) {
        int planes = channel.planes();
        double gain = StageGains.toTrim(channel);
        int at = first;
        for (Insert insert : channel.strip().activeInserts()) {
            Signal.Edge edge =
                    new Signal.Edge(at, GainMatrix.diagonal(planes, gain * Decibels.toFactor(insert.inputDb())));
            OptionalInt key = keyOf(channel, insert);
            int latency = latencies.get(at);
            if (key.isPresent()) {
                int together = Math.max(latency, latencies.get(key.getAsInt()));
                edge = at(edge, together);
                key = OptionalInt.of(at(new Signal.Edge(key.getAsInt(), GainMatrix.diagonal(planes, 1)), together)
                        .from());
                latency = together;
            }
            at = add(
                    new Signal.Processed(
                            new SignalId(
                                    channel.id(),
                                    SignalId.Point.INSERT,
                                    insert.id().value(),
                                    aside),
                            planes,
                            edge,
                            key,
                            insert),
                    latency + Effects.latencyFrames(insert.processor(), session.sampleRateHz()));
            boolean heard = Processors.of(insert.processor().kind()).sounds();
            silent.set(at, !heard && (edge.gain().silent() || silent.get(edge.from())));
            gain = 1;
        }
        return new Signal.Edge(at, GainMatrix.diagonal(planes, gain));
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
            known = addSum(
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

    /** The edge that carries a channel's signal to its output, after fader, placement, mute and solo. */
    private Signal.Edge throughFader(Channel channel, Signal.Edge chain, boolean aside) {
        SignalId id = new SignalId(channel.id(), SignalId.Point.PLACED, "", aside);
        Signal.Edge edge = placed(channel, chain, channel.strip().placement(), StageGains.fader(faders, channel), id);
        return gated(edge, sounding.contains(channel.id()) ? 1 : 0);
    }

    private static Signal.Edge gated(Signal.Edge edge, double gain) {
        return gain == 1 ? edge : new Signal.Edge(edge.from(), edge.gain().times(gain));
    }

    /**
     * An edge into a stereo sum through a placement. One that mixes the channel's sides becomes a signal, so that its
     * level can be measured whether or not it sounds.
     *
     * @param id of that signal
     */
    private Signal.Edge placed(Channel channel, Signal.Edge chain, Placement placement, double gain, SignalId id) {
        double before = chain.gain().gain(0, 0);
        GainMatrix matrix = GainMatrix.of(placement.gains(session.panLaw(), channel.planes()))
                .times(before * gain);
        if (!matrix.mixes()) {
            return new Signal.Edge(chain.from(), matrix);
        }
        Integer known = placedSums.get(id);
        if (known == null) {
            known = add(
                    new Signal.Sum(id, 2, List.of(new Signal.Edge(chain.from(), matrix))), latencies.get(chain.from()));
            silent.set(known, matrix.silent() || silent.get(chain.from()));
            placedSums.put(id, known);
        }
        return new Signal.Edge(known, GainMatrix.diagonal(2, 1));
    }

    private void connectOutputs(Channel channel, Signal.Edge out, Layer layer, double share) {
        Signal.Edge edge = gated(out, share);
        Connections.outputs(channel).forEach(bus -> layer.connect(bus, channel.id(), edge));
        if (layer == heard && channel.strip().output() instanceof Output.ToInterface(int pair)) {
            pairInputs.computeIfAbsent(pair, any -> new ArrayList<>()).add(new Input(channel.id(), edge));
        }
    }

    private void connectSends(Channel channel, Signal.Edge chain, Layer layer, double share) {
        double open = sounding.contains(channel.id()) ? share : 0;
        List<Send> sends = channel.strip().sends();
        for (int i = 0; i < sends.size(); i++) {
            if (sends.get(i).on() && sends.get(i).target() instanceof Send.ToBus(ChannelId bus)) {
                layer.connect(bus, channel.id(), gated(sent(channel, chain, i, layer != heard), open));
            }
        }
    }

    /**
     * What only listens goes on listening while others are soloed; before the fader also while the channel is muted. It
     * hears the whole, whatever part of it a stem is.
     */
    private void connectKeys(Channel channel, Signal.Edge chain) {
        List<Send> sends = channel.strip().sends();
        for (int i = 0; i < sends.size(); i++) {
            Send send = sends.get(i);
            if (send.on() && send.target() instanceof Send.ToKey(ChannelId to, SlotId slot)) {
                double open = send.preFader() || !faders.muted(channel) ? 1 : 0;
                keyInputs
                        .computeIfAbsent(new KeyInput(to, slot), id -> new ArrayList<>())
                        .add(new Input(channel.id(), gated(sent(channel, chain, i, whole != heard), open)));
            }
        }
    }

    private Signal.Edge sent(Channel channel, Signal.Edge chain, int number, boolean aside) {
        Send send = channel.strip().sends().get(number);
        double gain = Decibels.toFactor(send.levelDb()) * (send.preFader() ? 1 : StageGains.fader(faders, channel));
        Placement placement = send.placement().orElse(channel.strip().placement());
        // A track's signals are the same in all layers.
        SignalId id =
                new SignalId(channel.id(), SignalId.Point.PLACED, "send " + number, aside && channel instanceof Bus);
        return placed(channel, chain, placement, gain, id);
    }

    private int add(Signal signal, int latency) {
        signals.add(signal);
        latencies.add(latency);
        return signals.size() - 1;
    }
}
