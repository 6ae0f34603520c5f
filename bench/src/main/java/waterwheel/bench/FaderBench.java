package waterwheel.bench;

import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.concurrent.SynchronousQueue;
import java.util.concurrent.TimeUnit;
import waterwheel.core.demo.DemoSession;
import waterwheel.core.json.Json;
import waterwheel.core.levels.LevelWatch;
import waterwheel.core.levels.SessionLevels;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.store.SessionFolder;
import waterwheel.core.work.Progress;

/** How long the demo session's levels are pending after one fader has moved, everywhere down to the mix. */
final class FaderBench {
    private static final int ROUNDS = 3;

    private FaderBench() {}

    static String run(Path folder) throws Exception {
        DemoSession.writeIfMissing(folder, Progress.NONE);
        Session session = SessionFolder.load(folder).session();
        SynchronousQueue<SessionLevels> complete = new SynchronousQueue<>();
        List<Double> millis = new ArrayList<>();
        double opening;
        try (LevelWatch watch = new LevelWatch(folder, levels -> hand(levels, complete), failure -> {
            throw failure;
        })) {
            long began = System.nanoTime();
            watch.submit(session);
            take(complete);
            opening = (System.nanoTime() - began) * 1e-6;
            double db = -1;
            for (int round = 0; round < ROUNDS; round++) {
                for (Track track : session.tracks()) {
                    double fader = db -= 0.01;
                    Session moved = session.withStrip(track.id(), strip -> strip.withFaderDb(fader));
                    // The timing is of one move at a time, so the others are put back untimed.
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
        }
        Collections.sort(millis);
        ObjectNode node = Json.object();
        node.put("bench", "levels true after one fader move, demo session");
        node.put("cores", Runtime.getRuntime().availableProcessors());
        node.put("moves", millis.size());
        node.set("medianMilliseconds", Json.figure(millis.get(millis.size() / 2), 1));
        node.set("slowestMilliseconds", Json.figure(millis.getLast(), 1));
        node.set("firstMeasureMilliseconds", Json.figure(opening, 1));
        return Json.compact(node);
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
