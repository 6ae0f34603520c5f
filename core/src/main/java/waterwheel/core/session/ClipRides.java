package waterwheel.core.session;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.rides.Control;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.CurveRange;
import waterwheel.core.rides.Ridable;
import waterwheel.core.rides.Ride;
import waterwheel.core.rides.Scale;

/**
 * Lays what clips say of their channels' controls onto the rides of those controls: an offset while a clip lasts, none
 * before and behind it. Where clips overlap, the one that starts later rules, also where it says nothing; of two that
 * start together the later one in the track's list.
 */
public final class ClipRides {
    private ClipRides() {}

    /**
     * A curve of a clip with what it lies on.
     *
     * @param clip the clip's place among its track's, from 0
     */
    public record OfClip(ControlId control, int clip, Curve offset) {}

    /** All curves of clips of a session whose controls are there, in the order of the screen. */
    public static List<OfClip> all(Session session) {
        List<OfClip> all = new ArrayList<>();
        for (Track track : session.tracks()) {
            for (int i = 0; i < track.clips().size(); i++) {
                for (ClipRide ride : track.clips().get(i).rides()) {
                    ControlId id = new ControlId(track.id(), ride.part(), ride.key());
                    if (Controls.has(session, id)) {
                        all.add(new OfClip(id, i, ride.offset()));
                    }
                }
            }
        }
        return all;
    }

    /** The session in which the channels' rides say what their clips do too; the same one where no clip does anything. */
    public static Session laid(Session session) {
        Session out = session;
        for (Track track : session.tracks()) {
            if (track.clips().stream().anyMatch(clip -> !clip.rides().isEmpty())) {
                out = out.withStrip(track.id(), strip -> laid(track, strip));
            }
        }
        return out;
    }

    private static Strip laid(Track track, Strip strip) {
        ControlId.Part whole = new ControlId.OfStrip();
        Strip out = (Strip) laid(track, whole, Strip.controls(), strip);
        List<Insert> inserts = new ArrayList<>();
        for (Insert insert : strip.inserts()) {
            ControlId.Part slot = new ControlId.OfInsert(insert.id());
            inserts.add((Insert) laid(track, slot, insert.controls(), insert));
        }
        return out.withInserts(inserts);
    }

    private static Ridable laid(Track track, ControlId.Part part, List<Control> controls, Ridable owner) {
        Ridable out = owner;
        for (Control control : controls) {
            Optional<Ride> moving = laid(track, part, control, owner);
            if (moving.isPresent()) {
                out = out.withRides(out.rides().with(control.key(), moving.get()));
            }
        }
        return out;
    }

    /**
     * What moves a control of a track: its ride while that is active, with what clips lay on it. A fader that is set to
     * silence stays silent.
     */
    static Optional<Ride> laid(Track track, ControlId.Part part, Control control, Ridable owner) {
        Optional<Ride> own = owner.rides().active(control.key());
        double set = owner.value(control.key());
        Curve offset = offset(track, part, control);
        if (offset.isNone() || (own.isEmpty() && set == Double.NEGATIVE_INFINITY)) {
            return own;
        }
        Ride under = own.orElseGet(
                () -> Ride.of(new Curve(List.of(new CurvePoint(0, control.limited(set), CurvePoint.Shape.HOLD)))));
        return Optional.of(under.withOffsetCurve(under.offsetCurve().plus(offset)));
    }

    /** What all clips add to a control over the song; {@link Curve#NONE} where none says anything of it. */
    static Curve offset(Track track, ControlId.Part part, Control control) {
        if (track.clips().stream()
                .allMatch(clip -> clip.ride(part, control.key()).isNone())) {
            return Curve.NONE;
        }
        List<Clip> clips = track.clips().stream()
                .sorted(Comparator.comparingLong(Clip::startFrames))
                .toList();
        Curve whole = new Curve(List.of(new CurvePoint(0, 0, CurvePoint.Shape.HOLD)));
        for (Clip clip : clips) {
            CurveRange lasts = new CurveRange(clip.startFrames(), clip.endFrames());
            whole = lasts.overwritten(whole, points(clip, clip.ride(part, control.key())), Scale.PLAIN);
        }
        return whole;
    }

    /** What a clip says of a control, on the song's line: 0 where it says nothing. */
    private static List<CurvePoint> points(Clip clip, Curve ride) {
        if (ride.isNone()) {
            return List.of(new CurvePoint(clip.startFrames(), 0, CurvePoint.Shape.HOLD));
        }
        return new CurveRange(0, clip.lengthFrames())
                .cut(ride, Scale.PLAIN).stream()
                        .map(p -> new CurvePoint(clip.startFrames() + p.frame(), p.value(), p.shape()))
                        .toList();
    }

    /** The insert whose settings a clip moves. */
    public static Optional<SlotId> slot(Clip clip) {
        return clip.rides().stream()
                .map(ClipRide::part)
                .filter(ControlId.OfInsert.class::isInstance)
                .map(part -> ((ControlId.OfInsert) part).slot())
                .findFirst();
    }
}
