package waterwheel.core.playback;

import java.util.List;
import waterwheel.core.notes.Notes;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.Ride;
import waterwheel.core.session.ClipRides;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.core.session.Feed;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;

/** The session while the song stands at a frame: no clip sounds, and every ride stands at what it is there. */
final class StandingSession {
    private StandingSession() {}

    static Session at(Session session, long frame) {
        Session laid = ClipRides.laid(session);
        Session standing = laid.withChannels(laid.channels().stream()
                .map(channel -> channel instanceof Track track && track.tap().isEmpty() ? still(track) : channel)
                .toList());
        Session out = standing;
        for (ControlId id : Controls.ridden(standing)) {
            if (Controls.moving(standing, id).isPresent()) {
                CurvePoint point = new CurvePoint(0, Controls.reading(standing, id, frame), CurvePoint.Shape.LINE);
                out = Controls.with(out, id, Ride.of(new Curve(List.of(point))));
            }
        }
        return out;
    }

    /** Without what is played back; its instrument may be played by hand. */
    private static Track still(Track track) {
        return switch (track.feed()) {
            case Feed.Played played ->
                track.withFeed(played.withNotes(
                        new Notes(List.of(), List.of(), played.notes().tempo())));
            case Feed.Output _ -> track;
            case Feed.Clips _, Feed.Tapped _, Feed.Input _ -> track.withClips(List.of());
        };
    }
}
