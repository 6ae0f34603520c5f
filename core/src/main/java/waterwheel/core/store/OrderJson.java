package waterwheel.core.store;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.TreeMap;
import waterwheel.core.inserts.Processor;
import waterwheel.core.json.Json;
import waterwheel.core.order.Correction;
import waterwheel.core.order.LineUp;
import waterwheel.core.order.Part;
import waterwheel.core.order.RunningOrder;
import waterwheel.core.order.Song;
import waterwheel.core.order.SongId;
import waterwheel.core.order.Stretch;
import waterwheel.core.order.Target;
import waterwheel.core.processing.Equaliser;
import waterwheel.core.units.SongLength;

/** The file of a running order, field by field, in a stable order; its schema is order in docs/schema. */
final class OrderJson {
    private static final String FORMAT = "waterwheel-order";
    private static final int VERSION = 1;

    private OrderJson() {}

    /** A running order and the places in the file that are not known. */
    record Read(RunningOrder order, List<String> unknownFields) {}

    static ObjectNode write(RunningOrder order) {
        ObjectNode node = Json.object();
        node.put("format", FORMAT);
        node.put("version", VERSION);
        node.put("title", order.title());
        node.putObject("target")
                .put("goal", order.target().goal().label())
                .put("lufs", order.target().lufs())
                .put("toleranceLu", order.target().toleranceLu())
                .put("guardDbtp", order.target().guardDbtp());
        ArrayNode parts = node.putArray("parts");
        for (Part part : order.parts()) {
            ObjectNode entry = parts.addObject().put("name", part.name()).put("cue", part.cue());
            part.ownLufs().ifPresent(lufs -> entry.put("lufs", lufs));
        }
        ArrayNode names = node.putArray("names");
        new TreeMap<>(order.names()).forEach((stem, part) -> {
            ObjectNode entry = names.addObject().put("stem", stem);
            if (!part.equals(RunningOrder.LEFT_OUT)) {
                entry.put("part", part);
            }
        });
        ArrayNode songs = node.putArray("songs");
        order.songs().forEach(song -> write(songs.addObject(), song));
        ArrayNode lineUps = node.putArray("lineUps");
        for (LineUp lineUp : order.lineUps()) {
            ArrayNode in = lineUps.addObject().put("name", lineUp.name()).putArray("parts");
            lineUp.parts().forEach(in::add);
        }
        return node;
    }

    private static void write(ObjectNode node, Song song) {
        node.put("id", song.id().value());
        node.put("path", song.path());
        node.put("title", song.title());
        if (!song.sections().isEmpty()) {
            ArrayNode sections = node.putArray("sections");
            for (Stretch section : song.sections()) {
                sections.addObject()
                        .put("name", section.name())
                        .put("startSeconds", section.startSeconds())
                        .put("endSeconds", section.endSeconds());
            }
        }
        if (!song.corrections().isEmpty()) {
            ArrayNode corrections = node.putArray("corrections");
            new TreeMap<>(song.corrections()).forEach((part, correction) -> {
                ObjectNode entry = corrections.addObject().put("part", part).put("gainDb", correction.gainDb());
                correction
                        .equaliser()
                        .ifPresent(settings -> StripJson.writeSettings(entry.putObject("equaliser"), settings));
            });
        }
    }

    static Read read(JsonNode node) throws SessionJson.Problem {
        List<String> unknown = new ArrayList<>();
        JsonFields fields = new JsonFields(node, "", unknown);
        if (!node.path("format").asText().equals(FORMAT)) {
            throw new SessionJson.Problem(
                    "This is not the file of a running order.", "Choose a file that Waterwheel made.");
        }
        fields.text("format");
        if (fields.count("version", 1, Integer.MAX_VALUE) > VERSION) {
            throw new SessionJson.Problem(
                    "It was saved by a newer Waterwheel.", "Open it with that, or get the newer version.");
        }
        try {
            RunningOrder order = order(fields);
            fields.close();
            return new Read(order, unknown);
        } catch (IllegalArgumentException e) {
            throw new SessionJson.Problem("The running order contradicts itself: " + e.getMessage() + ".");
        }
    }

    private static RunningOrder order(JsonFields fields) throws SessionJson.Problem {
        Map<String, String> names = new LinkedHashMap<>();
        for (Map.Entry<String, String> name : fields.list(
                "names",
                entry -> Map.entry(
                        entry.text("stem"), entry.has("part") ? entry.text("part") : RunningOrder.LEFT_OUT))) {
            names.put(name.getKey(), name.getValue());
        }
        return new RunningOrder(
                fields.text("title"),
                target(fields.object("target")),
                fields.list("parts", OrderJson::part),
                names,
                fields.list("songs", OrderJson::song),
                fields.list("lineUps", entry -> new LineUp(entry.text("name"), entry.texts("parts"))));
    }

    private static Target target(JsonFields fields) throws SessionJson.Problem {
        Target target = new Target(
                fields.oneOf("goal", Target.Goal.values(), Target.Goal::label),
                fields.number("lufs", Target.LEAST_LUFS, 0),
                fields.number("toleranceLu", Target.LEAST_TOLERANCE_LU, Target.MOST_TOLERANCE_LU),
                fields.number("guardDbtp", Target.LEAST_GUARD_DBTP, 0));
        fields.close();
        return target;
    }

    private static Part part(JsonFields fields) throws SessionJson.Problem {
        return new Part(
                fields.text("name"),
                fields.flag("cue"),
                fields.has("lufs")
                        ? OptionalDouble.of(fields.number("lufs", Target.LEAST_LUFS, 0))
                        : OptionalDouble.empty());
    }

    private static Song song(JsonFields fields) throws SessionJson.Problem {
        Map<String, Correction> corrections = new LinkedHashMap<>();
        if (fields.has("corrections")) {
            for (Map.Entry<String, Correction> one : fields.list("corrections", OrderJson::correction)) {
                corrections.put(one.getKey(), one.getValue());
            }
        }
        return new Song(
                new SongId(fields.text("id")),
                fields.text("path"),
                fields.text("title"),
                fields.has("sections") ? fields.list("sections", OrderJson::section) : List.of(),
                corrections);
    }

    private static Stretch section(JsonFields fields) throws SessionJson.Problem {
        return new Stretch(
                fields.text("name"),
                fields.number("startSeconds", 0, SongLength.MOST_SECONDS),
                fields.number("endSeconds", 0, SongLength.MOST_SECONDS));
    }

    private static Map.Entry<String, Correction> correction(JsonFields fields) throws SessionJson.Problem {
        Optional<Processor> equaliser = fields.has("equaliser")
                ? Optional.of(new Processor(
                        Equaliser.KIND,
                        StripJson.settings(fields.object("equaliser"), Equaliser.KIND),
                        Optional.empty()))
                : Optional.empty();
        return Map.entry(
                fields.text("part"),
                new Correction(fields.number("gainDb", -Correction.LIMIT_DB, Correction.LIMIT_DB), equaliser));
    }
}
