package waterwheel.core.edit;

import java.util.List;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.rides.Control;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;

/**
 * What a hand on a control does: it reads from then on what the hand says. One that is ridden moves its offset, so that
 * what is written stays; another one is set. Faders, trims and mutes take along what is meant and linked.
 */
public final class Hand {
    private Hand() {}

    /**
     * Moves a control, or sets what cannot be ridden.
     *
     * @param along the channels that a fader, trim or mute is meant for, its own among them; none for it alone, whatever
     *     it is linked to
     * @param frame the frame of the song at which it reads the value
     * @param value in the control's unit; a switch 0 or 1; a fader's negative infinity is silence
     */
    public static Edit move(Session session, ControlId id, List<Channel> along, long frame, double value) {
        Channel channel = session.find(id.owner()).orElse(null);
        if (channel != null && id.part() instanceof ControlId.OfInsert(SlotId slot) && !Controls.has(session, id)) {
            // What cannot be ridden is set, and nothing lies on top of it.
            return FlowEdits.insert(channel, slot, insert -> insert.with(id.key(), value));
        }
        if (channel != null && id.part() instanceof ControlId.OfStrip) {
            if (id.key().equals(Strip.FADER.key())) {
                return fader(session, id, channel, along, frame, value);
            }
            if (id.key().equals(Strip.TRIM.key())) {
                return Edits.trimsBy(along, value - Controls.reading(session, id, frame));
            }
            if (id.key().equals(Strip.MUTED.key())) {
                return Edits.forEach("Mute", along, one -> Edits.mute(one, value >= 0.5));
            }
        }
        return RideEdits.active(session, id).isPresent()
                ? RideEdits.byHand(session, id, frame, value)
                : set(session, id, frame, value);
    }

    /** As far as the hand moved it, with all that move along: where curves move it, that is told from what it reads. */
    private static Edit fader(
            Session session, ControlId id, Channel channel, List<Channel> along, long frame, double value) {
        if (Controls.moving(session, id).isEmpty()) {
            return along.isEmpty() ? Edits.faderAlone(channel, value) : Edits.fadersTo(along, channel, value);
        }
        double by = Math.max(value, Control.SILENT_DB) - Controls.reading(session, id, frame);
        return along.isEmpty()
                ? Edits.faderAlone(channel, channel.strip().standingDb(Strip.FADER) + by)
                : Edits.fadersBy(along, by);
    }

    /** Sets what is not ridden; what clips lay on top of it is taken off first. */
    private static Edit set(Session session, ControlId id, long frame, double value) {
        Control control = Controls.control(session, id);
        boolean laid = Controls.moving(session, id).isPresent();
        double wanted = laid
                ? control.scale()
                        .offset(
                                Controls.set(session, id),
                                control.scale().from(Controls.reading(session, id, frame), control.limited(value)))
                : value;
        return new Edit(
                Controls.name(session, id) + " of " + Controls.ownerName(session, id),
                s -> Controls.has(s, id) ? Controls.withSet(s, id, wanted) : s);
    }
}
