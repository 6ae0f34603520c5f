package waterwheel.bench;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.errors.WaterwheelException;
import waterwheel.core.findings.Findings;
import waterwheel.core.json.Json;
import waterwheel.core.levels.SessionMeasurement;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Clip;
import waterwheel.core.session.Feed;
import waterwheel.core.session.Output;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Tap;
import waterwheel.core.session.Track;
import waterwheel.core.session.Vca;
import waterwheel.core.store.SessionFolder;
import waterwheel.core.work.Progress;

/** Sessions of unusual size and depth: how long until they are saved, read, measured and judged, in how much memory. */
final class ScaleBench {
    private static final int SECONDS = 1;

    private ScaleBench() {}

    static String run(Path folder) throws Exception {
        StringBuilder lines = new StringBuilder();
        lines.append(timed("512 nested buses", nested(folder.resolve("nested"), 512), folder.resolve("nested")));
        lines.append(timed("3000 chained taps", taps(folder.resolve("taps"), 3_000), folder.resolve("taps")));
        lines.append(timed("2000 tracks", tracks(folder.resolve("tracks"), 2_000), folder.resolve("tracks")));
        lines.append(timed("100000 clips", clips(folder.resolve("clips"), 100_000), folder.resolve("clips")));
        lines.append(timed("lattice of 26 buses", lattice(folder.resolve("lattice"), 26), folder.resolve("lattice")));
        lines.append(timed("chain of 1000 VCAs", vcas(folder.resolve("vcas"), 1_000, 1), folder.resolve("vcas")));
        lines.append(timed("lattice of 26 VCAs", vcas(folder.resolve("grid"), 26, 2), folder.resolve("grid")));
        NoiseSession.delete(folder);
        return lines.toString().strip();
    }

    private static String timed(String name, Session session, Path folder) throws WaterwheelException {
        ObjectNode node = Json.object();
        node.put("bench", name);
        long began = System.nanoTime();
        SessionFolder.save(session, folder);
        node.set("saveSeconds", since(began));
        began = System.nanoTime();
        Session loaded = SessionFolder.load(folder).session();
        node.set("loadSeconds", since(began));
        began = System.nanoTime();
        int findings = Findings.of(SessionMeasurement.of(loaded, folder, Progress.NONE))
                .size();
        node.set("levelsAndFindingsSeconds", since(began));
        node.put("findings", findings);
        System.gc();
        node.set(
                "heapMegabytes",
                Json.figure(
                        (Runtime.getRuntime().totalMemory()
                                        - Runtime.getRuntime().freeMemory())
                                * 1e-6,
                        1));
        return Json.compact(node) + "\n";
    }

    private static JsonNode since(long began) {
        return Json.figure((System.nanoTime() - began) * 1e-9, 2);
    }

    private static NoiseSession begun(Path folder) throws Exception {
        Files.createDirectories(folder);
        return new NoiseSession(folder, SECONDS, SampleEncoding.FLOAT_32);
    }

    private static Strip to(String bus) {
        return Strip.unity(Output.to(new ChannelId(bus)));
    }

    private static Session nested(Path folder, int depth) throws Exception {
        NoiseSession made = begun(folder);
        made.addTrack(to("b0"));
        for (int i = 0; i < depth; i++) {
            String next = i + 1 < depth ? "b" + (i + 1) : "main";
            made.add(new Bus(new ChannelId("b" + i), "Bus " + i, to(next)));
        }
        return made.whole();
    }

    private static Session taps(Path folder, int count) throws Exception {
        NoiseSession made = begun(folder);
        made.addTrack(to("main"));
        Session session = made.whole();
        List<Channel> channels = new ArrayList<>(session.channels());
        ChannelId from = session.tracks().getFirst().id();
        for (int i = 0; i < count; i++) {
            ChannelId id = new ChannelId("t" + i);
            channels.add(new Track(
                            id,
                            "Tap " + i,
                            Track.Kind.SUSTAINED,
                            2,
                            List.of(),
                            to("main").withFaderDb(-60))
                    .withFeed(new Feed.Tapped(new Tap(from, Tap.Point.PRE_FADER))));
            from = id;
        }
        return session.withChannels(channels);
    }

    private static Session tracks(Path folder, int count) throws Exception {
        NoiseSession made = begun(folder);
        made.addTrack(to("main").withTrimDb(-40));
        for (int i = 1; i < count; i++) {
            made.addTrackLike(0, to("main").withTrimDb(-40));
        }
        return made.whole();
    }

    private static Session clips(Path folder, int count) throws Exception {
        NoiseSession made = begun(folder);
        made.addTrack(to("main"));
        Session session = made.whole();
        Track track = session.tracks().getFirst();
        List<Clip> clips = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            clips.add(new Clip(track.clips().getFirst().source(), i * 480L, i % 400 * 100L, 960, -i % 7));
        }
        return session.withChannel(track.id(), c -> ((Track) c).withClips(clips));
    }

    /** Each bus feeds the next one as its output, and the one after it as a further one. */
    private static Session lattice(Path folder, int levels) throws Exception {
        NoiseSession made = begun(folder);
        made.addTrack(to("b0"));
        for (int i = 0; i < levels; i++) {
            String next = i + 1 < levels ? "b" + (i + 1) : "main";
            String further = i + 2 < levels ? "b" + (i + 2) : "main";
            made.add(new Bus(
                    new ChannelId("b" + i), "Bus " + i, to(next).withExtraOutputs(List.of(new ChannelId(further)))));
        }
        return made.whole();
    }

    /** VCAs over VCAs: a chain, or a grid in which each is under all of the next level. */
    private static Session vcas(Path folder, int levels, int wide) throws Exception {
        NoiseSession made = begun(folder);
        made.addTrack(to("main"));
        Session session = made.whole();
        List<Vca> vcas = new ArrayList<>();
        List<ChannelId> below = List.of(session.tracks().getFirst().id());
        for (int level = 0; level < levels; level++) {
            List<ChannelId> here = new ArrayList<>();
            for (int i = 0; i < wide; i++) {
                ChannelId id = new ChannelId("v" + level + "-" + i);
                vcas.add(new Vca(id, "VCA " + id, 0, false, below, List.of()));
                here.add(id);
            }
            below = here;
        }
        return session.withVcas(vcas);
    }
}
