package waterwheel.core.engine;

import java.util.List;
import java.util.Optional;
import java.util.function.BiFunction;
import waterwheel.core.instruments.Performance;
import waterwheel.core.path.GainMatrix;
import waterwheel.core.path.Stage;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Clip;
import waterwheel.core.session.Feed;
import waterwheel.core.session.Freeze;
import waterwheel.core.session.Session;
import waterwheel.core.session.Tap;
import waterwheel.core.session.Track;

/** The signals with which channels begin: what clips, instruments, inputs or other channels give, or what was frozen. */
final class FeedSignals {
    private final Session session;
    private final PlanBuilder plan;
    private final boolean played;
    private final BiFunction<Tap, SignalId, Signal.Edge> tapped;

    /**
     * Makes such signals for a plan.
     *
     * @param played whether what comes in is heard
     * @param tapped gives the edge from a channel that a track takes its signal from, by way of a signal of an id where one
     *     must begin
     */
    FeedSignals(Session session, PlanBuilder plan, boolean played, BiFunction<Tap, SignalId, Signal.Edge> tapped) {
        this.session = session;
        this.plan = plan;
        this.played = played;
        this.tapped = tapped;
    }

    /** Adds what feeds a track. */
    int add(Track track) {
        SignalId id = new SignalId(track.id(), SignalId.Point.SOURCE);
        return switch (track.feed()) {
            case Feed.Clips _ -> addClips(id, track);
            case Feed.Tapped(Tap tap) ->
                addTap(id, track, tapped.apply(tap, new SignalId(track.id(), SignalId.Point.RIDDEN, "tap")));
            case Feed.Input input -> addInput(id, track, input);
            case Feed.Played _, Feed.Output _ -> addPerformance(id, track);
        };
    }

    /** Adds a channel's sound up to some slot, as it was rendered: on the song's line, held up by nothing. */
    int addFrozen(Channel channel) {
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

    /** What a track takes from another channel; the sum of both sides, halved, where only the track is mono. */
    private int addTap(SignalId id, Track track, Signal.Edge from) {
        int planes = from.gain().toPlanes();
        Signal.Edge edge = from;
        if (track.planes() < planes) {
            edge = from.folded();
        } else if (track.planes() > planes) {
            edge = from.then(GainMatrix.toStereo(planes, 1));
        }
        return plan.addSum(id, track.planes(), edge);
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

    private int addPerformance(SignalId id, Track track) {
        Optional<Feed.Played> performed = session.performance(track);
        if (performed.isEmpty()) {
            return plan.add(new Signal.Source(id, track.planes(), List.of()), 0, false);
        }
        Feed.Played what = performed.get();
        Performance performance = new Performance(what.instrument(), what.notes(), what.output());
        ChannelId player = track.feed() instanceof Feed.Output output ? output.player() : track.id();
        return plan.add(new Signal.Played(id, track.planes(), performance, player), 0, false);
    }
}
