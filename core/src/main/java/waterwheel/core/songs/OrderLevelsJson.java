package waterwheel.core.songs;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.List;
import java.util.Optional;
import waterwheel.core.json.Json;
import waterwheel.core.order.Correction;
import waterwheel.core.order.Target;

/** Songs against the target as documents; their schemas are order-levels and order-equal in docs/schema. */
public final class OrderLevelsJson {
    private OrderLevelsJson() {}

    /** Every song, and the target that they are judged by. */
    public static ObjectNode of(OrderLevels levels) {
        ObjectNode node = Json.object();
        Target target = levels.order().target();
        node.putObject("target")
                .put("goal", target.goal().label())
                .put("lufs", target.lufs())
                .put("toleranceLu", target.toleranceLu())
                .put("guardDbtp", target.guardDbtp());
        ArrayNode songs = node.putArray("songs");
        levels.rows().forEach(row -> songs.add(song(levels, row)));
        return node;
    }

    /** One song. */
    public static ObjectNode song(OrderLevels levels, SongRow row) {
        ObjectNode node = Json.object();
        node.put("id", row.song().id().value());
        node.put("title", row.song().title());
        node.put("ok", row.levels() != null);
        SongLevels song = row.levels();
        if (song == null) {
            node.put("error", row.problem());
            return node;
        }
        node.set("seconds", Json.figure(song.seconds()));
        node.put("sampleRate", song.sampleRateHz());
        ArrayNode parts = node.putArray("parts");
        for (PartLevels part : song.parts()) {
            ObjectNode entry = parts.addObject();
            entry.put("name", part.name());
            entry.put("cue", part.cue());
            Correction correction = row.song().correction(part.name());
            entry.put("gainDb", correction.gainDb());
            entry.put("equalised", correction.equaliser().isPresent());
            write(entry, levels, part, levels.cell(row, part.name(), ""), song.sections());
        }
        write(node.putObject("sum"), levels, song.sum(), levels.sum(row, ""), song.sections());
        ArrayNode notes = node.putArray("notes");
        levels.sentences(row).forEach(notes::add);
        return node;
    }

    private static void write(
            ObjectNode node,
            OrderLevels levels,
            PartLevels part,
            Optional<OrderLevels.Cell> cell,
            List<String> sectionNames) {
        write(node, part.whole());
        cell.ifPresent(one -> one.nearness(levels.order().target()).ifPresent(nearness -> {
            node.set("offLu", Json.figure(one.offLu()));
            node.put("nearness", nearness.label());
        }));
        ArrayNode sections = node.putArray("sections");
        for (int i = 0; i < sectionNames.size(); i++) {
            ObjectNode section = sections.addObject().put("name", sectionNames.get(i));
            write(section, part.sections().get(i));
        }
    }

    private static void write(ObjectNode node, Level level) {
        node.set("integratedLufs", Json.figure(level.integratedLufs()));
        node.set("loudnessRangeLu", Json.figure(level.rangeLu()));
        node.set("truePeakDbtp", Json.figure(level.truePeakDbtp()));
        node.set("samplePeakDbfs", Json.figure(level.samplePeakDbfs()));
        node.set("headroomDb", Json.figure(level.headroomDb()));
    }

    /** What would bring songs to their target. */
    public static ObjectNode proposals(OrderLevels levels, List<Equal> proposals, boolean applied) {
        ObjectNode node = Json.object();
        node.put("applied", applied);
        ArrayNode all = node.putArray("proposals");
        for (Equal one : proposals) {
            ObjectNode entry = all.addObject();
            entry.put("id", one.song().value());
            entry.put("title", levels.order().song(one.song()).title());
            entry.put("part", one.part());
            entry.set("gainDb", Json.figure(one.gainDb()));
            entry.set("changeDb", Json.figure(one.changeDb()));
            entry.set("reachesLufs", Json.figure(one.reachesLufs()));
            entry.put("heldByGuard", one.heldByGuard());
        }
        return node;
    }
}
