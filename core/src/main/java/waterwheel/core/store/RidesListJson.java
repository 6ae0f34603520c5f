package waterwheel.core.store;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import waterwheel.core.json.Json;
import waterwheel.core.rides.Ride;
import waterwheel.core.session.ClipRide;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;

/** The document that lists a session's rides; its schema is rides in docs/schema. */
public final class RidesListJson {
    private RidesListJson() {}

    public static ObjectNode of(Session session) {
        ObjectNode node = Json.object();
        ArrayNode curves = node.putArray("curves");
        for (ControlId id : Controls.ridden(session)) {
            Ride ride = Controls.ride(session, id).orElseThrow();
            curves.addObject()
                    .put("channel", id.owner().value())
                    .put("parameter", id.path())
                    .put("unit", Controls.control(session, id).unit())
                    .put("points", ride.curve().points().size())
                    .put("reach", "song")
                    .put("suspended", ride.suspended());
        }
        for (Track track : session.tracks()) {
            for (int i = 0; i < track.clips().size(); i++) {
                for (ClipRide ride : track.clips().get(i).rides()) {
                    ControlId id = new ControlId(track.id(), ride.part(), ride.key());
                    if (Controls.has(session, id)) {
                        curves.addObject()
                                .put("channel", id.owner().value())
                                .put("parameter", id.path())
                                .put("unit", Controls.control(session, id).unit())
                                .put("points", ride.offset().points().size())
                                .put("reach", RidesCsv.CLIP + (i + 1))
                                .put("suspended", false);
                    }
                }
            }
        }
        return node;
    }
}
