package waterwheel.core.playback;

import org.jspecify.annotations.Nullable;
import waterwheel.core.engine.LiveLoops;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.engine.PlanRun;
import waterwheel.core.engine.PortBuffers;
import waterwheel.core.engine.PortPatch;
import waterwheel.core.freezing.Freezes;
import waterwheel.core.load.LateBlocks;
import waterwheel.core.load.LoadMeter;
import waterwheel.core.ports.AudioPort;
import waterwheel.core.session.Session;
import waterwheel.core.work.Team;

/** Prepares what a player plays next, which takes milliseconds. One thread at a time. */
final class Preparation {
    private final AudioPort port;
    private final Team team;
    private final PortBuffers buffers;
    private final int block;
    private final LateBlocks late = new LateBlocks();
    /** What was ordered last. */
    private @Nullable Running prepared;

    private @Nullable Running preparedStanding;

    /** A plan in motion with its meters; another one only when the plan's shape changes. */
    static final class Running {
        private final Plan shape;
        private final Media media;
        private final PlanRun run;
        private final LiveMeters meters;
        private final LoadMeter load;
        /** Where the mix is heard: moved to other ports, it crosses over as to another shape. */
        private final int monitorPair;

        Running(Plan shape, Media media, PlanRun run, LiveMeters meters, LoadMeter load, int monitorPair) {
            this.load = load;
            this.monitorPair = monitorPair;
            this.shape = shape;
            this.media = media;
            this.run = run;
            this.meters = meters;
        }

        Plan shape() {
            return shape;
        }

        Media media() {
            return media;
        }

        LiveMeters meters() {
            return meters;
        }

        LoadMeter load() {
            return load;
        }
    }

    /** What is played with the values that it has. */
    record Playing(Running running, Plan plan, LiveMeters.Meters meters, PortPatch patch) {
        /** How much further than what is heard the engine must be, because of the processors' latency. */
        int late() {
            return plan.latencies().get(plan.monitor());
        }

        PlanRun run() {
            return running.run;
        }
    }

    /**
     * What is to be played next.
     *
     * @param values to move to; null where a run begins with them
     * @param standing while the song stands; null where nothing is heard then
     */
    record Order(
            Playing playing,
            PlanRun.@Nullable Values values,
            @Nullable Order standing) {
        /** Has what runs already go to its values; allocates nothing. */
        void move() {
            if (values != null) {
                playing.run().take(values);
                playing.running().meters().use(playing.meters());
            }
        }
    }

    /** @param port open for blocks of that length */
    Preparation(AudioPort port, Team team, PortBuffers buffers, int block) {
        this.port = port;
        this.team = team;
        this.buffers = buffers;
        this.block = block;
    }

    /**
     * Prepares a session. An order that was not taken may be replaced by the next one: that tells all values, and the run
     * that they belong to.
     *
     * @param frame where the song stands, if it does
     * @param byHand whether an instrument is played by hand, which is heard then too
     */
    Order order(Session session, Media media, long frame, boolean byHand) {
        Order stands = standing(session, media, frame, byHand);
        Order order = order(prepared, session, media, stands);
        prepared = order.playing().running();
        return order;
    }

    /** @return null where nothing is heard then */
    private @Nullable Order standing(Session session, Media media, long frame, boolean byHand) {
        boolean hears = port.inputs() > 0
                && session.tracks().stream().anyMatch(track -> track.input().isPresent());
        if (!hears && !byHand) {
            preparedStanding = null;
            return null;
        }
        Order order = order(preparedStanding, StandingSession.at(session, frame), media, null);
        preparedStanding = order.playing().running();
        return order;
    }

    private Order order(@Nullable Running before, Session session, Media media, @Nullable Order stands) {
        // With the loops that this interface has the ports for.
        Plan plan = PlanCompiler.forPlayback(
                session, LiveLoops.within(port.inputs(), port.outputs()), Freezes.playable(session, media));
        int monitorPair = session.rack().monitorPair();
        PortPatch patch = new PortPatch(plan, port.outputs(), monitorPair);
        LiveMeters.Meters meters = new LiveMeters.Meters(plan);
        if (before != null
                && media == before.media
                && monitorPair == before.monitorPair
                && before.shape.sameShape(plan)) {
            return new Order(new Playing(before, plan, meters, patch), before.run.values(plan), stands);
        }
        PlanRun run = PlanRun.ofAll(plan, media, team, block, buffers);
        LiveMeters live = new LiveMeters(plan, run, meters);
        run.clocked();
        run.ready();
        LoadMeter load = LoadMeter.live(plan, block, late);
        return new Order(
                new Playing(new Running(plan, media, run, live, load, monitorPair), plan, meters, patch), null, stands);
    }
}
