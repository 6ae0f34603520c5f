package waterwheel.core.songs;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import waterwheel.core.json.Json;
import waterwheel.core.work.AsideFile;

/**
 * What was measured of songs, by the state that it is true of. Everything in it can be measured again: a file that is
 * damaged is as one that is not there. Several processes may work in one folder.
 */
final class FiguresCache {
    private static final String ENDING = ".json";

    private final Path folder;

    FiguresCache(Path folder) {
        this.folder = folder;
    }

    Optional<SongLevels> find(String stamp) {
        try {
            JsonNode node = Json.parse(Files.readString(file(stamp), StandardCharsets.UTF_8));
            return Optional.of(new SongLevels(
                    stamp,
                    node.path("seconds").asDouble(),
                    node.path("sampleRateHz").asInt(),
                    texts(node.path("sections")),
                    parts(node.path("parts")),
                    part(node.path("sum")),
                    texts(node.path("notes"))));
        } catch (IOException | IllegalArgumentException e) {
            return Optional.empty();
        }
    }

    /** Where the disk refuses, it is measured again the next time. */
    void keep(SongLevels levels) {
        ObjectNode node = Json.object();
        node.put("seconds", levels.seconds());
        node.put("sampleRateHz", levels.sampleRateHz());
        ArrayNode sections = node.putArray("sections");
        levels.sections().forEach(sections::add);
        ArrayNode parts = node.putArray("parts");
        levels.parts().forEach(part -> write(parts.addObject(), part));
        write(node.putObject("sum"), levels.sum());
        ArrayNode notes = node.putArray("notes");
        levels.notes().forEach(notes::add);
        try {
            Files.createDirectories(folder);
            byte[] text = Json.compact(node).getBytes(StandardCharsets.UTF_8);
            AsideFile.write(file(levels.stamp()), path -> Files.write(path, text));
        } catch (IOException e) {
            // Next time.
        }
    }

    /** Removes what is true of no song any more. */
    void keepOnly(Set<String> stamps) {
        try (Stream<Path> files = Files.list(folder)) {
            for (Path file : files.toList()) {
                String name = String.valueOf(file.getFileName());
                if (name.endsWith(ENDING) && !stamps.contains(name.substring(0, name.length() - ENDING.length()))) {
                    Files.deleteIfExists(file);
                }
            }
        } catch (IOException e) {
            // Next time.
        }
    }

    private Path file(String stamp) {
        return folder.resolve(stamp + ENDING);
    }

    private static void write(ObjectNode node, PartLevels part) {
        node.put("name", part.name());
        node.put("cue", part.cue());
        ArrayNode stems = node.putArray("stems");
        part.stems().forEach(stems::add);
        write(node.putArray("whole"), part.whole());
        ArrayNode sections = node.putArray("sections");
        part.sections().forEach(level -> write(sections.addArray(), level));
    }

    private static void write(ArrayNode node, Level level) {
        for (double figure :
                new double[] {level.integratedLufs(), level.rangeLu(), level.truePeakDbtp(), level.samplePeakDbfs()}) {
            // What is no number in JSON is a text.
            if (Double.isFinite(figure)) {
                node.add(figure);
            } else {
                node.add(Double.toString(figure));
            }
        }
    }

    private static List<PartLevels> parts(JsonNode nodes) {
        List<PartLevels> parts = new ArrayList<>();
        nodes.forEach(node -> parts.add(part(node)));
        return parts;
    }

    private static PartLevels part(JsonNode node) {
        List<Level> sections = new ArrayList<>();
        node.path("sections").forEach(section -> sections.add(level(section)));
        return new PartLevels(
                node.path("name").asText(),
                node.path("cue").asBoolean(),
                texts(node.path("stems")),
                level(node.path("whole")),
                sections);
    }

    private static Level level(JsonNode node) {
        return new Level(figure(node.path(0)), figure(node.path(1)), figure(node.path(2)), figure(node.path(3)));
    }

    private static double figure(JsonNode node) {
        return node.isNumber() ? node.doubleValue() : Double.parseDouble(node.asText());
    }

    private static List<String> texts(JsonNode nodes) {
        List<String> texts = new ArrayList<>();
        nodes.forEach(node -> texts.add(node.asText()));
        return texts;
    }
}
