package waterwheel.core.store;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.List;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.json.Json;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.Ride;
import waterwheel.core.session.Clip;
import waterwheel.core.session.ClipRide;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Strip;
import waterwheel.core.sources.SourceId;
import waterwheel.core.store.SessionJson.Problem;

/** A track's clips in a session file. */
final class ClipJson {
    private ClipJson() {}

    /** What most clips have none of is left out: fades, gain curve, rides. */
    static ObjectNode write(Clip clip) {
        ObjectNode node = Json.object();
        node.put("source", clip.source().value());
        node.put("startFrames", clip.startFrames());
        node.put("offsetFrames", clip.offsetFrames());
        node.put("lengthFrames", clip.lengthFrames());
        node.put("gainDb", clip.gainDb());
        if (clip.fadeInFrames() > 0) {
            node.put("fadeInFrames", clip.fadeInFrames());
        }
        if (clip.fadeOutFrames() > 0) {
            node.put("fadeOutFrames", clip.fadeOutFrames());
        }
        if (clip.side() != Clip.Side.BOTH) {
            node.put("side", clip.side().label());
        }
        if (!clip.gainCurve().isNone()) {
            ArrayNode points = node.putArray("gainCurve");
            for (CurvePoint point : clip.gainCurve().points()) {
                points.addObject()
                        .put("frame", point.frame())
                        .put("db", point.value())
                        .put("shape", point.shape().label());
            }
        }
        if (!clip.rides().isEmpty()) {
            ArrayNode rides = node.putArray("rides");
            clip.rides().forEach(ride -> write(rides.addObject(), ride));
        }
        return node;
    }

    static Clip read(JsonFields fields) throws Problem {
        return new Clip(
                new SourceId(fields.text("source")),
                fields.count("startFrames", 0, SessionJson.MOST_FRAMES),
                fields.count("offsetFrames", 0, SessionJson.MOST_FRAMES),
                fields.count("lengthFrames", 1, SessionJson.MOST_FRAMES),
                fields.number("gainDb", -Strip.TRIM_LIMIT_DB, Strip.TRIM_LIMIT_DB),
                fields.has("fadeInFrames") ? fields.count("fadeInFrames", 0, SessionJson.MOST_FRAMES) : 0,
                fields.has("fadeOutFrames") ? fields.count("fadeOutFrames", 0, SessionJson.MOST_FRAMES) : 0,
                fields.has("gainCurve") ? new Curve(fields.list("gainCurve", ClipJson::curvePoint)) : Curve.NONE,
                fields.has("side") ? fields.oneOf("side", Clip.Side.values(), Clip.Side::label) : Clip.Side.BOTH,
                fields.has("rides") ? fields.list("rides", ClipJson::ride) : List.of());
    }

    private static CurvePoint curvePoint(JsonFields fields) throws Problem {
        return new CurvePoint(
                fields.count("frame", 0, SessionJson.MOST_FRAMES),
                fields.number("db", -Strip.TRIM_LIMIT_DB, Strip.TRIM_LIMIT_DB),
                fields.oneOf("shape", CurvePoint.Shape.values(), CurvePoint.Shape::label));
    }

    private static void write(ObjectNode node, ClipRide ride) {
        if (ride.part() instanceof ControlId.OfInsert(SlotId slot)) {
            node.put("insert", slot.value());
        }
        node.put("control", ride.key());
        RidesJson.write(node.putArray("points"), ride.offset());
    }

    private static ClipRide ride(JsonFields fields) throws Problem {
        ControlId.Part part = fields.has("insert")
                ? new ControlId.OfInsert(new SlotId(fields.text("insert")))
                : new ControlId.OfStrip();
        try {
            return new ClipRide(
                    part,
                    fields.text("control"),
                    RidesJson.curve(fields, "points", -Ride.MOST_OFFSET, Ride.MOST_OFFSET));
        } catch (IllegalArgumentException e) {
            throw new Problem("A clip's ride cannot be: " + e.getMessage() + ".");
        }
    }
}
