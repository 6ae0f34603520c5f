package waterwheel.core.store;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.List;
import waterwheel.core.rides.Control;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.Ride;
import waterwheel.core.rides.Rides;
import waterwheel.core.store.SessionJson.Problem;

/** The rides of a strip, a send, an insert or a VCA in a session file; left out where there are none. */
final class RidesJson {
    /** More than any sum of offsets needs, in any unit. */
    private static final double MOST_OFFSET = 100_000;

    private RidesJson() {}

    static void write(ObjectNode owner, Rides rides) {
        if (rides.isNone()) {
            return;
        }
        ObjectNode all = owner.putObject("rides");
        rides.byKey().forEach((key, ride) -> {
            ObjectNode node = all.putObject(key);
            write(node.putArray("points"), ride.curve());
            if (ride.offset() != 0) {
                node.put("offset", ride.offset());
            }
            if (!ride.offsetCurve().isNone()) {
                write(node.putArray("offsetPoints"), ride.offsetCurve());
            }
            if (ride.suspended()) {
                node.put("suspended", true);
            }
        });
    }

    static void write(ArrayNode points, Curve curve) {
        for (CurvePoint point : curve.points()) {
            points.addObject()
                    .put("frame", point.frame())
                    .put("value", point.value())
                    .put("shape", point.shape().label());
        }
    }

    /** @param controls what the owner has that can be ridden */
    static Rides read(JsonFields owner, List<Control> controls) throws Problem {
        Rides rides = Rides.NONE;
        if (!owner.has("rides")) {
            return rides;
        }
        JsonFields all = owner.object("rides");
        for (Control control : controls) {
            if (all.has(control.key())) {
                rides = rides.with(control.key(), ride(all.object(control.key()), control));
            }
        }
        all.close();
        return rides;
    }

    private static Ride ride(JsonFields fields, Control control) throws Problem {
        Ride ride = new Ride(
                curve(fields, "points", control.least(), control.most()),
                fields.has("offset") ? fields.number("offset", -MOST_OFFSET, MOST_OFFSET) : 0,
                fields.has("offsetPoints") ? curve(fields, "offsetPoints", -MOST_OFFSET, MOST_OFFSET) : Curve.NONE,
                fields.has("suspended") && fields.flag("suspended"));
        fields.close();
        return ride;
    }

    static Curve curve(JsonFields fields, String name, double least, double most) throws Problem {
        List<CurvePoint> points = fields.list(
                name,
                point -> new CurvePoint(
                        point.count("frame", 0, SessionJson.MOST_FRAMES),
                        point.number("value", least, most),
                        point.oneOf("shape", CurvePoint.Shape.values(), CurvePoint.Shape::label)));
        try {
            return new Curve(points);
        } catch (IllegalArgumentException e) {
            throw new Problem("A ride's " + name + " cannot be: " + e.getMessage() + ".");
        }
    }
}
