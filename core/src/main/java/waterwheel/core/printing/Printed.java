package waterwheel.core.printing;

import java.util.List;
import waterwheel.core.edit.FlowEdits;
import waterwheel.core.edit.Groups;
import waterwheel.core.edit.Parking;
import waterwheel.core.session.Bond;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Clip;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.sources.AudioSource;

/** A channel's print and its file. */
public record Printed(PrintOrder order, AudioSource source) {
    /** A session in which tracks play the prints; a channel that is gone meanwhile is left out. */
    public static Session into(Session session, List<Printed> all) {
        Session out = session;
        for (Printed one : all) {
            if (out.find(one.order.channel()).isPresent()) {
                out = one.into(out);
            }
        }
        return out;
    }

    private Session into(Session session) {
        Session with = session.withMoreSources(List.of(source));
        Clip clip = new Clip(source.id(), 0, 0, source.frames(), 0);
        Track bare = StandIn.of(session, order).bare();
        Track track = bare.withClips(List.of(clip));
        return order.keepSource() ? beside(with, track) : instead(with, track);
    }

    private Session instead(Session session, Track track) {
        Session out = Parking.replaced(session, track);
        if (!order.groups()) {
            return Groups.without(out, track.id());
        }
        return order.upto().holds(Upto.FADER) ? Groups.withoutVcas(out, track.id()) : out;
    }

    private Session beside(Session session, Track track) {
        ChannelId id = FlowEdits.freeId(session, "t");
        Track own = new Track(
                id,
                FlowEdits.freeName(session, track.name()),
                track.kind(),
                track.planes(),
                track.feed(),
                track.strip(),
                track.ownReferenceDbfs(),
                track.colour());
        Session out = FlowEdits.beside(session, session.channel(track.id()), own);
        if (order.groups()) {
            for (Bond.Member member : Groups.of(session, track.id())) {
                boolean vca = session.findVca(member.group()).isPresent();
                if (!vca || !order.upto().holds(Upto.FADER)) {
                    out = Groups.with(out, new Bond.Member(member.group(), id, member.exempt()));
                }
            }
        }
        return out;
    }
}
