package waterwheel.core.session;

import waterwheel.core.rides.Curve;
import waterwheel.core.rides.Ride;
import waterwheel.core.units.Ranges;

/**
 * A curve that belongs to a clip, moves and is copied with it: an offset on one of its channel's controls while the clip
 * lasts.
 *
 * @param part what of the channel the control belongs to: its strip, or one of its inserts
 * @param key the control's key
 * @param offset in the unit of the control's scale, by frame from the clip's start
 */
public record ClipRide(ControlId.Part part, String key, Curve offset) {
    public ClipRide {
        boolean fits =
                switch (part) {
                    case ControlId.OfStrip() -> key.equals(Strip.FADER.key()) || key.equals(Placement.POSITION.key());
                    case ControlId.OfInsert _ -> true;
                    case ControlId.OfSend _ -> false;
                };
        if (!fits) {
            throw new IllegalArgumentException(
                    "key: " + key + " (expected: a fader, a position or a setting of an insert)");
        }
        offset.points().forEach(point -> Ranges.checked("offset", point.value(), -Ride.MOST_OFFSET, Ride.MOST_OFFSET));
    }

    boolean moves(ControlId.Part other, String otherKey) {
        return part.equals(other) && key.equals(otherKey);
    }
}
