package waterwheel.core.store;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.Optional;
import java.util.OptionalInt;
import waterwheel.core.rack.Cable;
import waterwheel.core.rack.Device;
import waterwheel.core.rack.Driver;
import waterwheel.core.rack.Expectation;
import waterwheel.core.rack.Knob;
import waterwheel.core.rack.LoopTiming;
import waterwheel.core.rack.Port;
import waterwheel.core.rack.PortSide;
import waterwheel.core.rack.Rack;
import waterwheel.core.rack.Reamplifier;
import waterwheel.core.rack.RecordingSettings;
import waterwheel.core.rack.Unit;
import waterwheel.core.rack.UnitId;
import waterwheel.core.store.SessionJson.Problem;

/** The hardware around a session, in its file; left out where there is none. */
final class RackJson {
    private RackJson() {}

    static void write(ObjectNode session, Rack rack) {
        if (rack.equals(Rack.NONE)) {
            return;
        }
        ObjectNode node = session.putObject("rack");
        node.put("driver", rack.driver().label());
        if (!rack.device().name().isEmpty()) {
            node.put("device", rack.device().name());
        }
        if (rack.blockFrames() != Device.USUAL_BLOCK_FRAMES) {
            node.put("blockFrames", rack.blockFrames());
        }
        node.put("monitorPair", rack.monitorPair());
        ArrayNode ports = node.putArray("ports");
        for (Port port : rack.ports()) {
            ObjectNode one = ports.addObject();
            one.put("side", StripJson.word(port.side()));
            one.put("number", port.number());
            if (!port.name().isEmpty()) {
                one.put("name", port.name());
            }
            one.put("fullScaleDbu", port.fullScaleDbu());
        }
        ArrayNode units = node.putArray("units");
        rack.units().forEach(unit -> write(units.addObject(), unit));
        ArrayNode cables = node.putArray("cables");
        for (Cable cable : rack.cables()) {
            ObjectNode one = cables.addObject();
            cable.unit().ifPresent(unit -> one.put("unit", unit.value()));
            one.put("output", cable.output());
            one.put("input", cable.input());
        }
        write(node.putObject("recording"), rack.recording());
    }

    private static void write(ObjectNode node, RecordingSettings recording) {
        node.put("averageDbfs", recording.averageDbfs());
        node.put("peakFromDbfs", recording.peakFromDbfs());
        node.put("peakToDbfs", recording.peakToDbfs());
        recording.roundTripFrames().ifPresent(frames -> node.put("roundTripFrames", frames));
    }

    private static void write(ObjectNode node, Unit unit) {
        node.put("id", unit.id().value());
        node.put("name", unit.name());
        node.put("channels", unit.channels());
        node.put("expects", StripJson.word(unit.expects()));
        unit.reamplifier().ifPresent(box -> node.putObject("reamplifier")
                .put("padDb", box.padDb())
                .put("groundLifted", box.groundLifted())
                .put("ohm", box.ohm()));
        ArrayNode knobs = node.putArray("knobs");
        for (Knob knob : unit.knobs()) {
            ObjectNode one = knobs.addObject();
            one.put("name", knob.name());
            one.put("least", knob.least());
            one.put("most", knob.most());
            if (!knob.unit().isEmpty()) {
                one.put("unit", knob.unit());
            }
            one.put("value", knob.value());
        }
        if (!unit.simulation().isEmpty()) {
            node.put("simulation", unit.simulation());
        }
        if (!unit.notes().isBlank()) {
            node.put("notes", unit.notes());
        }
    }

    static Rack read(JsonFields session) throws Problem {
        if (!session.has("rack")) {
            return Rack.NONE;
        }
        JsonFields fields = session.object("rack");
        Rack rack = new Rack(
                new Device(
                        fields.oneOf("driver", Driver.values(), Driver::label),
                        fields.has("device") ? fields.text("device") : "",
                        fields.has("blockFrames")
                                ? (int) fields.count("blockFrames", Device.LEAST_BLOCK_FRAMES, Device.MOST_BLOCK_FRAMES)
                                : Device.USUAL_BLOCK_FRAMES),
                (int) fields.count("monitorPair", 1, Port.MOST / 2),
                fields.list("ports", RackJson::port),
                fields.list("units", RackJson::unit),
                fields.list("cables", RackJson::cable),
                fields.has("recording") ? recording(fields.object("recording")) : RecordingSettings.DEFAULT);
        fields.close();
        return rack;
    }

    private static RecordingSettings recording(JsonFields fields) throws Problem {
        double peakFrom = fields.number("peakFromDbfs", -40, 0);
        RecordingSettings recording = new RecordingSettings(
                fields.number("averageDbfs", -40, -10),
                peakFrom,
                fields.number("peakToDbfs", peakFrom, 0),
                fields.has("roundTripFrames")
                        ? OptionalInt.of((int) fields.count("roundTripFrames", 0, (long) LoopTiming.MOST_FRAMES))
                        : OptionalInt.empty());
        fields.close();
        return recording;
    }

    private static Port port(JsonFields fields) throws Problem {
        return new Port(
                fields.oneOf("side", PortSide.values(), StripJson::word),
                (int) fields.count("number", 1, Port.MOST),
                fields.has("name") ? fields.text("name") : "",
                fields.number("fullScaleDbu", 0, 30));
    }

    private static Unit unit(JsonFields fields) throws Problem {
        return new Unit(
                new UnitId(fields.text("id")),
                fields.text("name"),
                (int) fields.count("channels", 1, 2),
                fields.oneOf("expects", Expectation.values(), StripJson::word),
                fields.has("reamplifier") ? Optional.of(reamplifier(fields.object("reamplifier"))) : Optional.empty(),
                fields.list("knobs", RackJson::knob),
                fields.has("simulation") ? fields.text("simulation") : "",
                fields.has("notes") ? fields.text("notes") : "");
    }

    private static Reamplifier reamplifier(JsonFields fields) throws Problem {
        Reamplifier box = new Reamplifier(
                fields.number("padDb", 0, 60), fields.flag("groundLifted"), fields.number("ohm", 100, 100_000));
        fields.close();
        return box;
    }

    private static Knob knob(JsonFields fields) throws Problem {
        return new Knob(
                fields.text("name"),
                fields.number("least", -Knob.MOST, Knob.MOST),
                fields.number("most", -Knob.MOST, Knob.MOST),
                fields.has("unit") ? fields.text("unit") : "",
                fields.number("value", -Knob.MOST, Knob.MOST));
    }

    private static Cable cable(JsonFields fields) throws Problem {
        return new Cable(
                fields.has("unit") ? Optional.of(new UnitId(fields.text("unit"))) : Optional.empty(),
                (int) fields.count("output", 1, Port.MOST),
                (int) fields.count("input", 1, Port.MOST));
    }
}
