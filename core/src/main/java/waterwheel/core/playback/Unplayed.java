package waterwheel.core.playback;

import java.util.List;
import waterwheel.core.session.Channel;
import waterwheel.core.session.Feed;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;

/** The session without what its instruments play: all of it that is prepared at once. */
final class Unplayed {
    private Unplayed() {}

    static Session of(Session session) {
        return session.withChannels(
                session.channels().stream().map(Unplayed::silent).toList());
    }

    private static Channel silent(Channel channel) {
        return channel instanceof Track track
                        && (track.feed() instanceof Feed.Played || track.feed() instanceof Feed.Output)
                ? track.withClips(List.of())
                : channel;
    }
}
