package waterwheel.bench;

import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.file.Path;
import java.util.Set;
import waterwheel.core.demo.DemoSession;
import waterwheel.core.json.Json;
import waterwheel.core.rack.Device;
import waterwheel.core.session.Session;
import waterwheel.core.store.SessionFolder;
import waterwheel.core.work.Progress;

/** The blocks of the demo's playback. */
final class PlayBench {
    private PlayBench() {}

    static String run(Path folder) throws Exception {
        DemoSession.writeIfMissing(folder, Progress.NONE);
        Session session = SessionFolder.load(folder).session();
        ObjectNode node = BlockTimes.of(session, folder, Set.of(), Device.USUAL_BLOCK_FRAMES);
        node.put("bench", "blocks of playback, demo session, one thread");
        return Json.compact(node);
    }
}
