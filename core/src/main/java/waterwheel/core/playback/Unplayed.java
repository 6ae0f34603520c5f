package waterwheel.core.playback;

import java.util.List;
import waterwheel.core.session.Channel;
import waterwheel.core.session.Feed;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;

/** The session without what its instruments play: all of it that is prepared at once. */
final class Unplayed {
    private Unplayed() {}

    /** Whether no instrument plays in a session. */
    static boolean is(Session session) {
        return session.tracks().stream().noneMatch(Unplayed::plays);
    }

    static Session of(Session session) {
        return is(session)
                ? session
                : session.withChannels(
                        session.channels().stream().map(Unplayed::silent).toList());
    }

    private static Channel silent(Channel channel) {
        return channel instanceof Track track && plays(track) ? track.withClips(List.of()) : channel;
    }

    private static boolean plays(Track track) {
        return track.feed() instanceof Feed.Played || track.feed() instanceof Feed.Output;
    }
}
