package waterwheel.core.edit;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;
import waterwheel.core.rides.Curve;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Clip;
import waterwheel.core.session.ClipRide;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;

/** The edits of a track's clips, which are told by their place in the track's list. */
public final class ClipEdits {
    private ClipEdits() {}

    /** Sets one clip's gain in dB. */
    public static Edit gain(Track track, int clip, double db) {
        double value = Math.clamp(db, -Strip.TRIM_LIMIT_DB, Strip.TRIM_LIMIT_DB);
        return change("Clip gain of " + track.name(), track, clip, c -> c.withGainDb(value));
    }

    /** Moves the gain of all clips of a track by as many dB. */
    public static Edit gainsBy(Track track, double db) {
        return gains(Map.of(
                track.id(), track.clips().stream().map(c -> c.gainDb() + db).toList()));
    }

    /** Sets the gains of all clips of some tracks in one step; in dB, one a clip. */
    public static Edit gains(Map<ChannelId, List<Double>> gainsDb) {
        String whose = gainsDb.size() == 1 ? "a track" : gainsDb.size() + " tracks";
        return Edits.each("Clip gains of " + whose, gainsDb, (c, db) -> c instanceof Track t ? withGains(t, db) : c);
    }

    private static Track withGains(Track track, List<Double> gainsDb) {
        List<Clip> clips = new ArrayList<>();
        for (int i = 0; i < track.clips().size(); i++) {
            double db = Math.clamp(gainsDb.get(i), -Strip.TRIM_LIMIT_DB, Strip.TRIM_LIMIT_DB);
            clips.add(track.clips().get(i).withGainDb(db));
        }
        return track.withClips(clips);
    }

    /** Sets a clip's fade in in frames; it stops where the fade out begins. */
    public static Edit fadeIn(Track track, int clip, long frames) {
        return change(
                "Fade in of " + track.name(),
                track,
                clip,
                c -> c.withFades(Math.clamp(frames, 0, c.lengthFrames() - c.fadeOutFrames()), c.fadeOutFrames()));
    }

    /** Sets a clip's fade out in frames; it stops where the fade in ends. */
    public static Edit fadeOut(Track track, int clip, long frames) {
        return change(
                "Fade out of " + track.name(),
                track,
                clip,
                c -> c.withFades(c.fadeInFrames(), Math.clamp(frames, 0, c.lengthFrames() - c.fadeInFrames())));
    }

    /** Gives a clip a gain curve, or takes it away. */
    public static Edit curve(Track track, int clip, Curve curve) {
        return change("Gain curve of " + track.name(), track, clip, c -> c.withGainCurve(curve));
    }

    /** Gives a clip another curve over one of its channel's controls, or takes it away; an offset, as long as it lasts. */
    public static Edit ride(Track track, int clip, ClipRide ride) {
        return change("Clip's ride of " + track.name(), track, clip, c -> c.withRide(ride));
    }

    /** Moves a clip, with all its curves, to where it begins on the song's line. */
    public static Edit move(Track track, int clip, long startFrames) {
        return change(
                "Place of a clip of " + track.name(), track, clip, c -> c.withStartFrames(Math.max(0, startFrames)));
    }

    /** Copies a clip, with all its curves, to another place on its track; the copy is the last in the track's list. */
    public static Edit copy(Track track, int clip, long startFrames) {
        return list(
                "Copied clip of " + track.name(),
                track,
                clip,
                clips -> clips.add(clips.get(clip).withStartFrames(Math.max(0, startFrames))));
    }

    /** Takes a clip away; its file stays. */
    public static Edit remove(Track track, int clip) {
        return list("Removal of a clip of " + track.name(), track, clip, clips -> clips.remove(clip));
    }

    private static Edit change(String name, Track track, int clip, UnaryOperator<Clip> change) {
        return list(name, track, clip, clips -> clips.set(clip, change.apply(clips.get(clip))));
    }

    /** A change of a track's list, as long as it has that clip. */
    private static Edit list(String name, Track track, int clip, Consumer<List<Clip>> change) {
        return new Edit(
                name,
                session -> session.withChannel(track.id(), c -> {
                    if (!(c instanceof Track now) || clip >= now.clips().size()) {
                        return c;
                    }
                    List<Clip> clips = new ArrayList<>(now.clips());
                    change.accept(clips);
                    return now.withClips(clips);
                }));
    }
}
