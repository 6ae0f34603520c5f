package waterwheel.core.levels;

import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import waterwheel.core.audiofile.AudioFile;
import waterwheel.core.engine.Media;
import waterwheel.core.filefacts.FileFacts;
import waterwheel.core.session.Session;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.sources.SourceId;
import waterwheel.core.work.JointProgress;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/** The facts of files that were scanned, here or before, each state of a file once. One thread at a time. */
final class FileScans {
    /** Waveforms appear as many at a time. */
    private static final int AT_ONCE = 8;

    private final MeasureCache cache;
    private final Team team;
    /** By what tells a file and its state from others, so that they outlive a change of the session's sources. */
    private final Map<String, FileFacts> known = new HashMap<>();

    /**
     * Makes one that knows nothing yet.
     *
     * @param cache where facts are kept
     * @param team does the work; not closed here
     */
    FileScans(MeasureCache cache, Team team) {
        this.cache = cache;
        this.team = team;
    }

    private static List<SourceId> readable(Session session, Media media) {
        return session.sources().stream()
                .map(AudioSource::id)
                .filter(id -> media.file(id).isPresent())
                .toList();
    }

    /** The facts of a session's open files that are known. */
    Map<SourceId, FileFacts> facts(Session session, Media media) {
        Map<SourceId, FileFacts> facts = new HashMap<>();
        for (SourceId id : readable(session, media)) {
            FileFacts one = known.get(media.fingerprint(id));
            if (one != null) {
                facts.put(id, one);
            }
        }
        return facts;
    }

    /** Whether the facts of all open files of a session are known. */
    boolean complete(Session session, Media media) {
        return readable(session, media).stream().allMatch(id -> known.containsKey(media.fingerprint(id)));
    }

    /**
     * Scans the files that were not scanned before, several at a time.
     *
     * @param shown told each time that more is known
     * @throws java.util.concurrent.CancellationException if the progress says stop; what was scanned stays known
     */
    void scan(Session session, Media media, Progress progress, Runnable shown) {
        Map<String, AudioFile> missing = new LinkedHashMap<>();
        for (SourceId id : readable(session, media)) {
            String state = media.fingerprint(id);
            if (!known.containsKey(state)) {
                FileFacts kept = cache.facts(state);
                if (kept == null) {
                    media.file(id).ifPresent(file -> missing.put(state, file));
                } else {
                    known.put(state, kept);
                }
            }
        }
        List<Map.Entry<String, AudioFile>> list = List.copyOf(missing.entrySet());
        JointProgress joint = new JointProgress(progress, Math.max(1, list.size()));
        for (int from = 0; from < list.size(); from += AT_ONCE) {
            int first = from;
            Map<String, FileFacts> found = new ConcurrentHashMap<>();
            team.run(Math.min(AT_ONCE, list.size() - first), i -> {
                Map.Entry<String, AudioFile> one = list.get(first + i);
                found.put(one.getKey(), FileFacts.of(one.getValue(), joint.part(first + i)));
            });
            found.forEach(cache::keep);
            known.putAll(found);
            shown.run();
        }
    }
}
