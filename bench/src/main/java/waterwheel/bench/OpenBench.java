package waterwheel.bench;

import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Stream;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.json.Json;
import waterwheel.core.levels.LevelWatch;
import waterwheel.core.session.AudioSource;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Clip;
import waterwheel.core.session.Output;
import waterwheel.core.session.PanLaw;
import waterwheel.core.session.Session;
import waterwheel.core.session.SourceId;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;

/** Opens a session of many long stereo tracks: how long until every figure and waveform is there, and in how much memory. */
final class OpenBench {
    private static final int RATE = 48_000;
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
        try (Stream<Path> files = Files.walk(folder)) {
            for (Path file : files.sorted(Comparator.reverseOrder()).toList()) {
                Files.delete(file);
            }
        }
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
        ChannelId main = new ChannelId("main");
        List<AudioSource> sources = new ArrayList<>();
        List<Channel> channels = new ArrayList<>();
        long frames = (long) seconds * RATE;
        for (int t = 0; t < tracks; t++) {
            String name = "track" + t;
            Path file = folder.resolve(name + ".wav");
            if (t < RECORDINGS) {
                Noise.write(file, seconds, RATE, t, SampleEncoding.PCM_24);
            } else {
                Files.createLink(file, folder.resolve("track" + t % RECORDINGS + ".wav"));
            }
            SourceId source = new SourceId(name);
            sources.add(new AudioSource(source, name + ".wav", frames, 2, RATE, SampleEncoding.PCM_24.label()));
            channels.add(new Track(
                    new ChannelId(name),
                    name,
                    Track.Kind.SUSTAINED,
                    2,
                    List.of(new Clip(source, 0, 0, frames, 0)),
                    Strip.unity(Output.to(main)).withTrimDb(-20 - 0.1 * t)));
        }
        channels.add(new Bus(main, "Main", Strip.unity(new Output.Nowhere())));
        return new Session("Bench", RATE, PanLaw.MINUS_3, -18, sources, channels, main, List.of());
    }
}
