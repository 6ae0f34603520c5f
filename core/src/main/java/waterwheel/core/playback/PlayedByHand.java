package waterwheel.core.playback;

import java.util.Optional;
import org.jspecify.annotations.Nullable;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.PortBuffers;
import waterwheel.core.instruments.Instrument;
import waterwheel.core.instruments.LiveKeys;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Feed;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;

/** The track whose instrument is played by hand: any thread chooses, one prepares, one plays. */
final class PlayedByHand {
    private volatile @Nullable ChannelId chosen;
    private volatile @Nullable Ready ready;
    /** Of the block that is being played; belongs to the playing thread. */
    private @Nullable Ready heard;

    private record Ready(ChannelId track, LiveKeys keys) {}

    /** Has a track's instrument played from when it is prepared; null for none. */
    void choose(@Nullable ChannelId track) {
        chosen = track;
    }

    /** Whether one is played, or is to be. */
    boolean any() {
        return chosen != null || ready != null;
    }

    /**
     * Makes what was chosen ready. One that is ready goes on while its instrument is the same.
     *
     * @return whether a track was chosen
     */
    boolean prepare(Session session, Media media) {
        ChannelId track = chosen;
        Instrument instrument = track == null ? null : instrument(session, track);
        Ready before = ready;
        if (track == null || instrument == null) {
            ready = null;
        } else if (before == null
                || !before.track().equals(track)
                || !before.keys().instrument().equals(instrument)) {
            ready = new Ready(track, new LiveKeys(instrument, session.sampleRateHz(), media::sample));
        }
        return track != null;
    }

    private static @Nullable Instrument instrument(Session session, ChannelId id) {
        return session.find(id).orElse(null) instanceof Track track
                ? track.played().map(Feed.Played::instrument).orElse(null)
                : null;
    }

    /** What plays the chosen track's instrument; empty where there is none, or it is not ready yet. */
    Optional<LiveKeys> keys() {
        return Optional.ofNullable(ready).map(Ready::keys);
    }

    /** Begins a block: takes what was done since the last one. */
    void begin(PortBuffers buffers) {
        Ready now = ready;
        heard = now;
        if (now == null) {
            buffers.playing(null, null);
        } else {
            now.keys().begin();
            buffers.playing(now.track(), now.keys());
        }
    }

    /** Ends the block. */
    void end(int frames) {
        if (heard != null) {
            heard.keys().end(frames);
        }
    }
}
