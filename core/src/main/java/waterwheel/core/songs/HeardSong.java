package waterwheel.core.songs;

import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import waterwheel.core.errors.WaterwheelException;
import waterwheel.core.order.Correction;
import waterwheel.core.order.Part;
import waterwheel.core.order.RunningOrder;
import waterwheel.core.order.Song;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.work.Progress;

/**
 * A song as it is listened to: a session of its stems for the player, whose parts can be moved while it plays.
 *
 * @param session every part in the mix, cues among them, as they were delivered to the running order
 * @param folder that relative paths of its sources start from
 */
public record HeardSong(Song song, Session session, Path folder, Map<Part, ChannelId> parts) {
    /** Which levels are heard. */
    public enum Levels {
        /** As corrected. */
        DELIVERED,
        /** As they were before any correction. */
        BEFORE
    }

    /**
     * Opens a song, rendering the parts of a session that changed.
     *
     * @throws WaterwheelException if it cannot be read
     * @throws java.util.concurrent.CancellationException if the progress says stop
     */
    public static HeardSong of(Song song, RunningOrder order, OrderPlace place, Progress progress)
            throws WaterwheelException {
        SongReader.Look look = new SongReader(place).ready(song, order, progress.part(0, 0.9));
        SongSession made = SongSession.of(
                song,
                look.files().orElseThrow(),
                look.sections(),
                order,
                place,
                part -> true,
                SongSession.Cues.HEARD,
                progress.part(0.9, 1));
        Map<Part, ChannelId> parts = new LinkedHashMap<>();
        for (SongSession.PartBus one : made.parts()) {
            parts.put(one.part(), one.bus());
        }
        return new HeardSong(song, made.session(), place.folder(), parts);
    }

    /** The names of its parts, in the running order's order. */
    public List<String> names() {
        return parts.keySet().stream().map(Part::name).toList();
    }

    /**
     * The session to play.
     *
     * @param now the song with what corrects it now
     * @param levels which of them are heard
     * @param cues whether clicks and cues are heard
     * @param fadersDb by part, on top of all else, as on a show; parts that are not in it stand at 0 dB
     */
    public Session played(Song now, Levels levels, boolean cues, Map<String, Double> fadersDb) {
        Session played = session;
        for (Map.Entry<Part, ChannelId> one : parts.entrySet()) {
            String name = one.getKey().name();
            Correction correction = levels == Levels.DELIVERED ? now.correction(name) : Correction.NONE;
            double faderDb = fadersDb.getOrDefault(name, 0.0);
            boolean muted = one.getKey().cue() && !cues;
            played = played.withStrip(one.getValue(), strip -> heard(strip, correction, faderDb, muted));
        }
        return played;
    }

    private static Strip heard(Strip strip, Correction correction, double faderDb, boolean muted) {
        return SongSession.corrected(strip, correction).withFaderDb(faderDb).withMuted(muted);
    }
}
