package waterwheel.core.store;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import waterwheel.core.json.Json;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.Ride;
import waterwheel.core.session.ClipRides;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.core.session.Session;

/** The document that lists a session's rides; its schema is rides in docs/schema. */
public final class RidesListJson {
    private RidesListJson() {}

    public static ObjectNode of(Session session) {
        ObjectNode node = Json.object();
        ArrayNode curves = node.putArray("curves");
        for (ControlId id : Controls.ridden(session)) {
            Ride ride = Controls.ride(session, id).orElseThrow();
            add(curves, session, id, ride.curve(), RidesCsv.SONG, ride.suspended());
        }
        for (ClipRides.OfClip one : ClipRides.all(session)) {
            add(curves, session, one.control(), one.offset(), RidesCsv.CLIP + (one.clip() + 1), false);
        }
        return node;
    }

    private static void add(
            ArrayNode curves, Session session, ControlId id, Curve curve, String reach, boolean suspended) {
        curves.addObject()
                .put("channel", id.owner().value())
                .put("parameter", id.path())
                .put("unit", Controls.control(session, id).unit())
                .put("points", curve.points().size())
                .put("reach", reach)
                .put("suspended", suspended);
    }
}
