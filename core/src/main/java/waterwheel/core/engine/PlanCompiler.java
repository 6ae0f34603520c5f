package waterwheel.core.engine;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;
import waterwheel.core.routing.Audibility;
import waterwheel.core.routing.RenderOrder;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Clip;
import waterwheel.core.session.Output;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;
import waterwheel.core.units.Decibels;

/**
 * Turns a session into a plan. Constant gains that follow each other (polarity, trim, fader, mute, placement) become
 * one edge, so that a signal exists only where something is summed. Muted and unsoloed channels keep their edges, with
 * gains of 0, so that the plan's shape does not change when they sound again.
 */
public final class PlanCompiler {
    private final Session session;
    private final Set<ChannelId> sounding;
    private final Predicate<Track> included;
    private final double outputGain;
    private final List<Signal> signals = new ArrayList<>();
    private final Map<ChannelId, List<Signal.Edge>> busInputs = new HashMap<>();
    private final List<Signal.Edge> cues = new ArrayList<>();

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
        return new Plan(session.sampleRateHz(), session.lengthFrames(), signals);
    }

    private void addTrack(Track track) {
        // A gain that all clips share is a gain on their sum, so that changing it measures nothing anew.
        double common = track.commonClipGainDb();
        List<Clip> clips = common == 0
                ? track.clips()
                : track.clips().stream().map(clip -> clip.withGainDb(0)).toList();
        if (clips.stream().anyMatch(clip -> clip.shaped() || clip.gainDb() != 0)) {
            add(new Signal.Source(
                    new SignalId(track.id(), SignalId.Point.FILES),
                    track.planes(),
                    clips.stream().map(Clip::bare).toList()));
        }
        int source = add(new Signal.Source(new SignalId(track.id(), SignalId.Point.SOURCE), track.planes(), clips));
        Signal.Edge edge = throughStrip(track, source, included.test(track) ? 1 : 0);
        if (track.kind() == Track.Kind.CUE) {
            cues.add(new Signal.Edge(edge.from(), edge.gain().times(outputGain)));
        } else {
            connect(track, edge);
        }
    }

    private void addBus(Bus bus, Map<ChannelId, Integer> place) {
        List<Signal.Edge> inputs = new ArrayList<>(busInputs.getOrDefault(bus.id(), List.of()));
        inputs.sort((a, b) -> place.getOrDefault(channelOf(a), 0) - place.getOrDefault(channelOf(b), 0));
        int input = add(new Signal.Sum(new SignalId(bus.id(), SignalId.Point.INPUT), 2, inputs));
        boolean main = bus.id().equals(session.mainId());
        Signal.Edge edge = throughStrip(bus, input, main ? outputGain : 1);
        if (main) {
            add(new Signal.Sum(new SignalId(bus.id(), SignalId.Point.OUTPUT), 2, List.of(edge)));
        } else {
            connect(bus, edge);
        }
    }

    private void addMonitor() {
        int output = signals.indexOf(signals.stream()
                .filter(s -> s.id().point() == SignalId.Point.OUTPUT)
                .findFirst()
                .orElseThrow());
        List<Signal.Edge> inputs = new ArrayList<>();
        inputs.add(new Signal.Edge(output, GainMatrix.diagonal(2, 1)));
        inputs.addAll(cues);
        add(new Signal.Sum(new SignalId(session.mainId(), SignalId.Point.MONITOR), 2, inputs));
    }

    /** The edge that carries a channel's signal to where it goes, after all of its strip. */
    private Signal.Edge throughStrip(Channel channel, int from, double extraGain) {
        Strip strip = channel.strip();
        double gate = sounding.contains(channel.id()) ? extraGain : 0;
        GainMatrix placed = GainMatrix.of(strip.placement().gains(session.panLaw(), channel.planes()))
                .times(StageGains.clips(channel) * StageGains.trim(strip) * StageGains.fader(strip));
        if (!placed.mixes()) {
            return new Signal.Edge(from, placed.times(gate));
        }
        int at = add(new Signal.Sum(
                new SignalId(channel.id(), SignalId.Point.PLACED), 2, List.of(new Signal.Edge(from, placed))));
        return new Signal.Edge(at, GainMatrix.diagonal(2, gate));
    }

    private void connect(Channel channel, Signal.Edge edge) {
        switch (channel.strip().output()) {
            case Output.ToBus(ChannelId bus) ->
                busInputs.computeIfAbsent(bus, id -> new ArrayList<>()).add(edge);
            case Output.Nowhere() -> {}
        }
    }

    private int add(Signal signal) {
        signals.add(signal);
        return signals.size() - 1;
    }

    private ChannelId channelOf(Signal.Edge edge) {
        return signals.get(edge.from()).id().channel();
    }
}
