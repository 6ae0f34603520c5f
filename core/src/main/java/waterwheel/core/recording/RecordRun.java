package waterwheel.core.recording;

import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.locks.LockSupport;
import waterwheel.core.engine.Media;
import waterwheel.core.errors.WaterwheelException;
import waterwheel.core.playback.Player;
import waterwheel.core.ports.AudioPort;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.work.Progress;

/** Records tracks over a stretch of the song, which is played meanwhile. */
public final class RecordRun {
    private RecordRun() {}

    /**
     * Records in real time; a stop ends it early, and what came in until then is kept.
     *
     * @param folder the session's
     * @param tracks that inputs feed
     * @param port closed; opened and closed here
     * @param from the frame of the song with which it begins
     * @param frames how long, at least
     * @return what was recorded, one a track; nothing where it was stopped at once
     * @throws WaterwheelException if the port refuses, or a file cannot be written
     */
    public static List<Recorded> run(
            Session session, Path folder, List<Track> tracks, AudioPort port, long from, long frames, Progress progress)
            throws WaterwheelException {
        try (Media media = Media.open(session, folder);
                Player player = new Player(session, media, port);
                Recorder recorder = new Recorder(folder, session, tracks)) {
            player.seek(from);
            player.record(recorder, recorder.tracks());
            player.start();
            while (!progress.stopped() && !recorder.failed() && player.position() < from + frames) {
                progress.at((double) Math.max(0, player.position() - from) / frames);
                LockSupport.parkNanos(5_000_000);
            }
            player.recordNothing();
            player.stop();
            return recorder.finish(lateFrames(session, player));
        }
    }

    /** How much later something comes in than the song goes out: as it was measured, or as the interface tells. */
    public static int lateFrames(Session session, Player player) {
        return session.rack().recording().roundTripFrames().orElse(player.roundTripFrames());
    }
}
