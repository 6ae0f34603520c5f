package waterwheel.bench;

import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import waterwheel.core.engine.Media;
import waterwheel.core.freezing.FreezeRun;
import waterwheel.core.freezing.Freezes;
import waterwheel.core.json.Json;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.work.Progress;

/**
 * Freezes every track of the full mix through its last slot: how fast, how fast again when nothing changed, and what
 * playing and rendering cost before and after.
 */
final class FreezeBench {
    private static final int BLOCK = 128;

    private FreezeBench() {}

    static String run(int tracks, int seconds, Path folder) throws Exception {
        Session live = FullMixBench.session(tracks, seconds, folder);
        List<FreezeRun.Wanted> wanted = live.tracks().stream()
                .map(track -> new FreezeRun.Wanted(
                        track.id(),
                        Optional.of(track.strip().inserts().getLast().id())))
                .toList();
        // Once to warm up, without its files.
        FreezeRun.run(live, folder, wanted, Progress.NONE);
        FreezeRun.sweep(live, folder);
        long start = System.nanoTime();
        List<FreezeRun.Rendered> rendered = FreezeRun.run(live, folder, wanted, Progress.NONE);
        double first = (System.nanoTime() - start) * 1e-9;
        start = System.nanoTime();
        FreezeRun.run(live, folder, wanted, Progress.NONE);
        double again = (System.nanoTime() - start) * 1e-9;
        Session frozen = FreezeRun.Rendered.into(live, rendered);
        Set<ChannelId> playable;
        try (Media media = Media.open(frozen, folder)) {
            playable = Freezes.playable(frozen, media);
        }
        ObjectNode node = Json.object();
        node.put("bench", "freeze " + tracks + " stereo tracks of a full mix");
        node.put("seconds", seconds);
        node.put("frozenChannels", playable.size());
        node.set("timesRealTime", Json.figure(seconds / first, 1));
        node.set("channelTimesRealTime", Json.figure(tracks * seconds / first, 1));
        node.set("againMilliseconds", Json.figure(1_000 * again, 1));
        node.set("playedBefore", BlockTimes.of(live, folder, Set.of(), BLOCK));
        node.set("playedAfter", BlockTimes.of(frozen, folder, playable, BLOCK));
        String render = NoiseSession.timeRender(
                "render full mix of " + tracks + " frozen stereo tracks", frozen, folder, seconds, 2);
        return Json.compact(node) + "\n" + render;
    }
}
