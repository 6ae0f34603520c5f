package waterwheel.core.store;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import waterwheel.core.rack.Capture;
import waterwheel.core.rack.Loop;
import waterwheel.core.rack.LoopTiming;
import waterwheel.core.rack.Port;
import waterwheel.core.rack.StemCapture;
import waterwheel.core.rack.UnitId;
import waterwheel.core.sources.SourceId;
import waterwheel.core.store.SessionJson.Problem;

/** The way of a hardware slot out of the computer and back, in a session file. */
final class LoopJson {
    /** What a level may be that was measured, in dBFS. */
    private static final double MOST_DB = 1_000;

    private LoopJson() {}

    static void write(ObjectNode insert, Loop loop) {
        if (loop.equals(Loop.NONE)) {
            return;
        }
        ObjectNode node = insert.putObject("loop");
        loop.unit().ifPresent(unit -> node.put("unit", unit.value()));
        node.put("sendPort", loop.sendPort());
        node.put("returnPort", loop.returnPort());
        loop.timing().ifPresent(timing -> write(node.putObject("timing"), timing));
        loop.capture().ifPresent(capture -> write(node.putObject("capture"), capture));
        if (!loop.shares().isEmpty()) {
            ArrayNode shares = node.putArray("shares");
            for (StemCapture share : loop.shares()) {
                write(shares.addObject().put("stem", share.stem()), share.capture());
            }
        }
    }

    private static void write(ObjectNode node, LoopTiming timing) {
        node.put("latencyFrames", timing.latencyFrames());
        node.put("inverted", timing.inverted());
        node.put("gainDb", timing.gainDb());
        StripJson.putLevel(node, "noiseDbfs", timing.noiseDbfs());
        timing.humHz()
                .ifPresent(hertz -> node.putObject("hum").put("hertz", hertz).put("dbfs", timing.humDbfs()));
        node.put("confidenceDb", timing.confidenceDb());
        node.put("sampleRateHz", timing.sampleRateHz());
        node.put("blockFrames", timing.blockFrames());
        node.put("device", timing.device());
    }

    private static void write(ObjectNode node, Capture capture) {
        node.put("source", capture.source().value());
        node.put("madeOf", capture.madeOf());
        StripJson.putLevel(node, "sentAverageDbfs", capture.sentAverageDbfs());
        StripJson.putLevel(node, "sentPeakDbfs", capture.sentPeakDbfs());
    }

    static Loop read(JsonFields insert) throws Problem {
        if (!insert.has("loop")) {
            return Loop.NONE;
        }
        JsonFields fields = insert.object("loop");
        Loop loop = new Loop(
                fields.has("unit") ? Optional.of(new UnitId(fields.text("unit"))) : Optional.empty(),
                (int) fields.count("sendPort", 0, Port.MOST),
                (int) fields.count("returnPort", 0, Port.MOST),
                fields.has("timing") ? Optional.of(timing(fields.object("timing"))) : Optional.empty(),
                fields.has("capture") ? Optional.of(closed(fields.object("capture"))) : Optional.empty(),
                fields.has("shares")
                        ? fields.list("shares", one -> new StemCapture(one.text("stem"), capture(one)))
                        : List.of());
        fields.close();
        return loop;
    }

    private static LoopTiming timing(JsonFields fields) throws Problem {
        OptionalDouble humHz = OptionalDouble.empty();
        double humDbfs = Double.NEGATIVE_INFINITY;
        if (fields.has("hum")) {
            JsonFields hum = fields.object("hum");
            humHz = OptionalDouble.of(hum.number("hertz", 50, 60));
            humDbfs = hum.number("dbfs", -MOST_DB, MOST_DB);
            hum.close();
        }
        LoopTiming timing = new LoopTiming(
                fields.number("latencyFrames", 0, LoopTiming.MOST_FRAMES),
                fields.flag("inverted"),
                fields.number("gainDb", -MOST_DB, MOST_DB),
                fields.levelOrSilence("noiseDbfs", MOST_DB),
                humHz,
                humDbfs,
                fields.number("confidenceDb", 0, MOST_DB),
                (int) fields.count("sampleRateHz", 8_000, 384_000),
                (int) fields.count("blockFrames", 1, 1 << 20),
                fields.text("device"));
        fields.close();
        return timing;
    }

    private static Capture closed(JsonFields fields) throws Problem {
        Capture capture = capture(fields);
        fields.close();
        return capture;
    }

    private static Capture capture(JsonFields fields) throws Problem {
        return new Capture(
                new SourceId(fields.text("source")),
                fields.text("madeOf"),
                fields.levelOrSilence("sentAverageDbfs", MOST_DB),
                fields.levelOrSilence("sentPeakDbfs", MOST_DB));
    }
}
