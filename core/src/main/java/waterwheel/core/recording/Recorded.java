package waterwheel.core.recording;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Clip;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.sources.AudioSource;

/**
 * What was recorded of a track.
 *
 * @param source the file
 * @param songFrame where the file's first frame belongs on the song's line; may lie before its beginning
 * @param clippedSamples how many samples came in at full scale: what was above is lost
 * @param missedFrames how many the disk was too slow for, which are silent
 */
public record Recorded(ChannelId track, AudioSource source, long songFrame, long clippedSamples, long missedFrames) {
    /** What went wrong while it came in, as the rest of a sentence; a full stop where nothing did. */
    public String troubles() {
        if (missedFrames > 0) {
            return ": the disk was too slow, and "
                    + String.format(Locale.ROOT, "%.2f", (double) missedFrames / source.sampleRateHz())
                    + " s are silent. Record to a faster disk.";
        }
        return clippedSamples > 0
                ? ": " + clippedSamples + " samples came in at full scale. Turn the input's gain down and record again."
                : ".";
    }

    /** Returns a session in which all of some recordings are clips of their tracks. */
    public static Session into(Session session, List<Recorded> recorded) {
        Session out = session;
        for (Recorded one : recorded) {
            out = one.into(out);
        }
        return out;
    }

    /**
     * Returns a session in which the recording is a clip of its track; what other clips have at that place is cut away, in
     * the session and not in their files. A track that is gone meanwhile changes nothing.
     */
    Session into(Session session) {
        long skipped = Math.max(0, -songFrame);
        if (!(session.find(track).orElse(null) instanceof Track into) || skipped >= source.frames()) {
            return session;
        }
        Clip clip = new Clip(source.id(), songFrame + skipped, skipped, source.frames() - skipped, 0);
        List<Clip> clips = new ArrayList<>();
        into.clips().forEach(one -> clips.addAll(ClipRoom.beside(one, clip.startFrames(), clip.endFrames())));
        clips.add(clip);
        return session.withMoreSources(List.of(source)).withChannel(track, channel -> into.withClips(clips));
    }
}
