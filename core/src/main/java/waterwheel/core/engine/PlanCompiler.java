package waterwheel.core.engine;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.OptionalInt;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Predicate;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.ProcessorKind;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.processing.Effects;
import waterwheel.core.routing.Audibility;
import waterwheel.core.routing.Connections;
import waterwheel.core.routing.RenderOrder;
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
    private final Predicate<Track> included;
    private final double outputGain;
    private final List<Signal> signals = new ArrayList<>();
    private final List<Integer> latencies = new ArrayList<>();
    /** Signals that nothing reaches; what they feed need not wait for them. */
    private final BitSet silent = new BitSet();

    private final Map<ChannelId, List<Input>> busInputs = new HashMap<>();
    private final Map<KeyInput, List<Input>> keyInputs = new HashMap<>();
    private final Map<Integer, List<Input>> pairInputs = new TreeMap<>();
    /** By channel what leaves its inserts, with the gain that is left to be applied. */
    private final Map<ChannelId, Signal.Edge> chains = new HashMap<>();

    private final Map<Late, Integer> delayed = new HashMap<>();
    private final List<Signal.Edge> cues = new ArrayList<>();

    /** What feeds a sum: its edge, and the channel that it comes from. */
    private record Input(ChannelId from, Signal.Edge edge) {}

    /** The key input of an insert. */
    private record KeyInput(ChannelId channel, SlotId slot) {}

    /** A signal that is wanted later. */
    private record Late(int signal, int frames) {}

    private PlanCompiler(Session session, Predicate<Track> included, double outputGain) {
        this.session = session;
        this.sounding = Audibility.sounding(session);
        this.included = included;
        this.outputGain = outputGain;
    }

    /**
     * Compiles the whole session.
     *
     * @throws IllegalArgumentException if the session has a feedback loop, which edits and loading refuse
     */
    public static Plan compile(Session session) {
        return new PlanCompiler(session, track -> true, 1).run();
    }

    /**
     * Compiles a session in which only some tracks sound, for a stem.
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
                case Bus bus -> addBus(bus, place);
            }
        }
        addMonitor();
        pairInputs.forEach((pair, inputs) ->
                addSum(new SignalId(session.mainId(), SignalId.Point.PAIR, "" + pair), sorted(inputs, place)));
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
        Signal.Edge chain = throughInserts(track, source);
        chains.put(track.id(), chain);
        if (track.cue()) {
            Signal.Edge edge = throughFader(track, chain, gain * outputGain);
            cues.add(edge);
        } else {
            connect(track, chain, gain);
        }
    }

    /** The signal that a track takes from another channel; the sum of both sides, halved, where only the track is mono. */
    private int addTap(SignalId id, Track track, Tap tap) {
        Signal.Edge chain = Objects.requireNonNull(chains.get(tap.channel()), "a channel before the track");
        Channel from = session.channel(tap.channel());
        double gain = chain.gain().gain(0, 0)
                * (tap.point() == Tap.Point.POST_FADER ? StageGains.fader(session, from) : 1)
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

    private void addBus(Bus bus, Map<ChannelId, Integer> place) {
        int input = addSum(
                new SignalId(bus.id(), SignalId.Point.INPUT),
                sorted(busInputs.getOrDefault(bus.id(), List.of()), place));
        Signal.Edge chain = throughInserts(bus, input);
        chains.put(bus.id(), chain);
        if (bus.id().equals(session.mainId())) {
            Signal.Edge edge = throughFader(bus, chain, outputGain);
            addSum(new SignalId(bus.id(), SignalId.Point.OUTPUT), List.of(edge));
        } else {
            connect(bus, chain, 1);
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
        addSum(new SignalId(session.mainId(), SignalId.Point.MONITOR), inputs);
    }

    /** Adds a sum at which all inputs arrive together. */
    private int addSum(SignalId id, List<Signal.Edge> inputs) {
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
        int added = add(new Signal.Sum(id, 2, together), latest);
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
                                        from.id().point() + " " + from.id().part() + " " + early),
                                from.planes(),
                                edge.from(),
                                early),
                        latency));
        silent.set(late, silent.get(edge.from()));
        return new Signal.Edge(late, edge.gain());
    }

    /** Adds a channel's inserts; the edge that leaves them carries what gain is left to be applied. */
    private Signal.Edge throughInserts(Channel channel, int first) {
        int planes = channel.planes();
        double gain = StageGains.clips(channel) * StageGains.trim(channel.strip());
        int at = first;
        for (Insert insert : channel.strip().activeInserts()) {
            Signal.Edge edge =
                    new Signal.Edge(at, GainMatrix.diagonal(planes, gain * Decibels.toFactor(insert.inputDb())));
            OptionalInt key = keyOf(channel, insert);
            int latency = latencies.get(at);
            if (key.isPresent()) {
                int together = Math.max(latency, latencies.get(key.getAsInt()));
                edge = at(edge, together);
                key = OptionalInt.of(at(new Signal.Edge(key.getAsInt(), GainMatrix.diagonal(2, 1)), together)
                        .from());
                latency = together;
            }
            at = add(
                    new Signal.Processed(
                            new SignalId(
                                    channel.id(),
                                    SignalId.Point.INSERT,
                                    insert.id().value()),
                            planes,
                            edge,
                            key,
                            insert),
                    latency + Effects.latencyFrames(insert.processor(), session.sampleRateHz()));
            boolean heard = insert.processor().kind() == ProcessorKind.TONE;
            silent.set(at, !heard && (edge.gain().silent() || silent.get(edge.from())));
            gain = 1;
        }
        return new Signal.Edge(at, GainMatrix.diagonal(planes, gain));
    }

    private OptionalInt keyOf(Channel channel, Insert insert) {
        List<Input> inputs = keyInputs.get(new KeyInput(channel.id(), insert.id()));
        if (inputs == null || !insert.processor().kind().keyed()) {
            return OptionalInt.empty();
        }
        SignalId id = new SignalId(channel.id(), SignalId.Point.KEY, insert.id().value());
        return OptionalInt.of(addSum(id, inputs.stream().map(Input::edge).toList()));
    }

    /** The edge that carries a channel's signal to its output, after fader, mute and placement. */
    private Signal.Edge throughFader(Channel channel, Signal.Edge chain, double extraGain) {
        return placed(
                channel,
                chain,
                channel.strip().placement(),
                StageGains.fader(session, channel),
                sounding.contains(channel.id()) ? extraGain : 0,
                "");
    }

    /**
     * An edge into a stereo sum through a placement. One that mixes the channel's sides becomes a signal, so that its
     * level can be measured whether or not it sounds.
     *
     * @param gate gain behind the signal: 0 where nothing leaves the channel
     * @param part which branch of the channel
     */
    private Signal.Edge placed(
            Channel channel, Signal.Edge chain, Placement placement, double gain, double gate, String part) {
        double before = chain.gain().gain(0, 0);
        GainMatrix matrix = GainMatrix.of(placement.gains(session.panLaw(), channel.planes()))
                .times(before * gain);
        if (!matrix.mixes()) {
            return new Signal.Edge(chain.from(), matrix.times(gate));
        }
        int at = add(
                new Signal.Sum(
                        new SignalId(channel.id(), SignalId.Point.PLACED, part),
                        2,
                        List.of(new Signal.Edge(chain.from(), matrix))),
                latencies.get(chain.from()));
        silent.set(at, matrix.silent() || silent.get(chain.from()));
        return new Signal.Edge(at, GainMatrix.diagonal(2, gate));
    }

    private void connect(Channel channel, Signal.Edge chain, double included) {
        Signal.Edge out = throughFader(channel, chain, included);
        for (ChannelId bus : Connections.outputs(channel)) {
            busInputs.computeIfAbsent(bus, id -> new ArrayList<>()).add(new Input(channel.id(), out));
        }
        if (channel.strip().output() instanceof Output.ToInterface(int pair)) {
            pairInputs.computeIfAbsent(pair, any -> new ArrayList<>()).add(new Input(channel.id(), out));
        }
        List<Send> sends = channel.strip().sends();
        for (int i = 0; i < sends.size(); i++) {
            connect(channel, chain, included, sends.get(i), "send " + i);
        }
    }

    private void connect(Channel channel, Signal.Edge chain, double included, Send send, String part) {
        if (!send.on()) {
            return;
        }
        boolean toKey = send.target() instanceof Send.ToKey;
        // What only listens goes on listening while others are soloed; before the fader also while the channel is
        // muted.
        boolean open = toKey ? send.preFader() || !channel.strip().muted() : sounding.contains(channel.id());
        double gain = Decibels.toFactor(send.levelDb()) * (send.preFader() ? 1 : StageGains.fader(session, channel));
        Placement placement = send.placement().orElse(channel.strip().placement());
        // A stem of one track is processed as in the mix: what its inserts listen to is not part of the stem.
        double share = toKey ? 1 : included;
        Signal.Edge edge = placed(channel, chain, placement, gain, open ? share : 0, part);
        Input input = new Input(channel.id(), edge);
        switch (send.target()) {
            case Send.ToBus(ChannelId bus) ->
                busInputs.computeIfAbsent(bus, id -> new ArrayList<>()).add(input);
            case Send.ToKey(ChannelId to, SlotId slot) ->
                keyInputs
                        .computeIfAbsent(new KeyInput(to, slot), id -> new ArrayList<>())
                        .add(input);
        }
    }

    private int add(Signal signal, int latency) {
        signals.add(signal);
        latencies.add(latency);
        return signals.size() - 1;
    }
}
