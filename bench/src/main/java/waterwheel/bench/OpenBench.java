package waterwheel.bench;

import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.file.Path;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.atomic.AtomicInteger;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.json.Json;
import waterwheel.core.levels.LevelWatch;
import waterwheel.core.session.Output;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;

/** Opens a session of many long stereo tracks: how long until every figure and waveform is there, and in how much memory. */
final class OpenBench {
    /** As many different recordings; more tracks are the same ones under other names, to spare the disk. */
    private static final int RECORDINGS = 4;

    private OpenBench() {}

    static String run(int tracks, int seconds, Path folder) throws Exception {
        Session session = session(tracks, seconds, folder);
        ObjectNode node = Json.object();
        node.put("bench", "open " + tracks + " stereo tracks of " + seconds + " s");
        node.put("cores", Runtime.getRuntime().availableProcessors());
        node.set("first", opening(session, folder));
        node.set("again", opening(session, folder));
        NoiseSession.delete(folder);
        return Json.compact(node);
    }

    private static ObjectNode opening(Session session, Path folder) throws Exception {
        CountDownLatch figures = new CountDownLatch(1);
        CountDownLatch complete = new CountDownLatch(1);
        AtomicInteger waveforms = new AtomicInteger();
        ObjectNode node = Json.object();
        long began = System.nanoTime();
        try (LevelWatch watch = new LevelWatch(
                folder,
                levels -> {
                    waveforms.set(levels.files().size());
                    if (levels.main().isPresent()) {
                        figures.countDown();
                    }
                    if (levels.complete()) {
                        complete.countDown();
                    }
                },
                failure -> {
                    throw failure;
                })) {
            watch.submit(session);
            figures.await();
            node.set("figuresSeconds", Json.figure((System.nanoTime() - began) * 1e-9));
            complete.await();
            node.set("figuresAndWaveformsSeconds", Json.figure((System.nanoTime() - began) * 1e-9));
            System.gc();
            long used =
                    Runtime.getRuntime().totalMemory() - Runtime.getRuntime().freeMemory();
            node.set("heapMegabytes", Json.figure(used * 1e-6, 1));
            node.put("waveforms", waveforms.get());
        }
        return node;
    }

    private static Session session(int tracks, int seconds, Path folder) throws Exception {
        NoiseSession made = new NoiseSession(folder, seconds, SampleEncoding.PCM_24);
        for (int t = 0; t < tracks; t++) {
            Strip strip = Strip.unity(Output.to(NoiseSession.MAIN)).withTrimDb(-20 - 0.1 * t);
            if (t < RECORDINGS) {
                made.addTrack(strip);
            } else {
                made.addTrackLike(t % RECORDINGS, strip);
            }
        }
        return made.whole();
    }
}
