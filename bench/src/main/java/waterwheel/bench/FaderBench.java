package waterwheel.bench;

import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.concurrent.SynchronousQueue;
import java.util.concurrent.TimeUnit;
import java.util.function.BiFunction;
import java.util.function.IntUnaryOperator;
import java.util.stream.IntStream;
import waterwheel.core.demo.DemoSession;
import waterwheel.core.inserts.Insert;
import waterwheel.core.json.Json;
import waterwheel.core.levels.LevelWatch;
import waterwheel.core.levels.SessionLevels;
import waterwheel.core.processing.Equaliser;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.Ride;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.core.session.Session;
import waterwheel.core.store.SessionFolder;
import waterwheel.core.work.Progress;

/**
 * How long the demo session's levels are pending after one fader, one equaliser or one point of a ride has moved,
 * everywhere down to the mix, some time after the session was opened.
 */
final class FaderBench {
    private static final int ROUNDS = 3;

    private static final int MOVES = 20;

    /** So long an engineer looks at a session that was opened, or listens to it, before the first change. */
    private static final int SECONDS_BEFORE = 20;

    private FaderBench() {}

    static String run(Path folder) throws Exception {
        DemoSession.writeIfMissing(folder, Progress.NONE);
        Session session = SessionFolder.load(folder).session();
        SynchronousQueue<SessionLevels> complete = new SynchronousQueue<>();
        ObjectNode node = Json.object();
        try (LevelWatch watch = new LevelWatch(folder, levels -> hand(levels, complete), failure -> {
            throw failure;
        })) {
            long began = System.nanoTime();
            watch.submit(session);
            take(complete);
            double opening = (System.nanoTime() - began) * 1e-6;
            node.put("bench", "levels true after one move, demo session");
            Thread.sleep(1_000L * SECONDS_BEFORE);
            node.put("secondsBefore", SECONDS_BEFORE);
            node.put("cores", Runtime.getRuntime().availableProcessors());
            int[] moves = {0};
            node.set("fader", timed(watch, complete, session, session.tracks(), (s, track) -> {
                double fader = -1 - 0.01 * moves[0]++;
                return s.withStrip(track.id(), strip -> strip.withFaderDb(fader));
            }));
            List<Channel> equalised = session.channels().stream()
                    .filter(c -> c.strip().activeInserts().stream().anyMatch(FaderBench::equalises))
                    .toList();
            node.set("equaliser", timed(watch, complete, session, equalised, (s, channel) -> {
                double bell = -0.01 * moves[0]++;
                return s.withStrip(
                        channel.id(),
                        strip -> strip.withInserts(strip.inserts().stream()
                                .map(i -> equalises(i)
                                        ? i.withProcessor(i.processor().with("bell2Db", bell))
                                        : i)
                                .toList()));
            }));
            List<Channel> ridden = session.channels().stream()
                    .filter(c -> !Controls.ridden(session, c.id()).isEmpty())
                    .toList();
            node.set(
                    "lastPoint",
                    timed(
                            watch,
                            complete,
                            session,
                            repeated(ridden),
                            (s, channel) -> withPoint(s, channel, moves[0]++, points -> points - 1)));
            node.set("anyPoint", timed(watch, complete, session, repeated(ridden), (s, channel) -> {
                int move = moves[0]++;
                return withPoint(s, channel, move, points -> 7 * move % points);
            }));
            node.set("firstMeasureMilliseconds", Json.figure(opening, 1));
        }
        return Json.compact(node);
    }

    /** A session with a point of one of a channel's rides lower than ever before. */
    private static Session withPoint(Session session, Channel channel, int move, IntUnaryOperator which) {
        List<ControlId> rides = Controls.ridden(session, channel.id());
        ControlId id = rides.get(move % rides.size());
        Ride ride = Controls.ride(session, id).orElseThrow();
        List<CurvePoint> points = ride.curve().points();
        CurvePoint point = points.get(which.applyAsInt(points.size()));
        CurvePoint lower = new CurvePoint(point.frame(), point.value() - 0.0001 * move, point.shape());
        return Controls.with(session, id, ride.withCurve(ride.curve().with(lower)));
    }

    /** So often that a round has some twenty moves. */
    private static List<Channel> repeated(List<Channel> channels) {
        return IntStream.range(0, MOVES)
                .mapToObj(i -> channels.get(i % channels.size()))
                .toList();
    }

    private static boolean equalises(Insert insert) {
        return insert.processor().kind().equals(Equaliser.KIND);
    }

    /** Times one move at a time; the others are put back untimed, and the first round lets the JIT compile. */
    private static ObjectNode timed(
            LevelWatch watch,
            SynchronousQueue<SessionLevels> complete,
            Session session,
            List<? extends Channel> channels,
            BiFunction<Session, Channel, Session> move)
            throws InterruptedException {
        List<Double> millis = new ArrayList<>();
        for (int round = 0; round < ROUNDS; round++) {
            for (Channel channel : channels) {
                Session moved = move.apply(session, channel);
                long start = System.nanoTime();
                watch.submit(moved);
                take(complete);
                if (round > 0) {
                    millis.add((System.nanoTime() - start) * 1e-6);
                }
                watch.submit(session);
                take(complete);
            }
        }
        Collections.sort(millis);
        ObjectNode node = Json.object();
        node.put("moves", millis.size());
        node.set("medianMilliseconds", Json.figure(millis.get(millis.size() / 2), 1));
        node.set("slowestMilliseconds", Json.figure(millis.getLast(), 1));
        return node;
    }

    private static void hand(SessionLevels levels, SynchronousQueue<SessionLevels> complete) {
        if (levels.complete()) {
            try {
                complete.offer(levels, 10, TimeUnit.SECONDS);
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
        }
    }

    private static void take(SynchronousQueue<SessionLevels> complete) throws InterruptedException {
        if (complete.poll(120, TimeUnit.SECONDS) == null) {
            throw new IllegalStateException("levels: none in two minutes (expected: complete levels)");
        }
    }
}
